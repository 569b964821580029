/** How distances in time and ends of days are said: beside the forms of dates, below the catalogue, which writes with both. */
export const TIMES = {
  now: 'just now',
  ahead: (distance: string) => `in ${distance}`,
  ago: (distance: string) => `${distance} ago`,
  /** "3 days"; `unit` in the singular. */
  distance: (count: number, unit: 'minute' | 'hour' | 'day' | 'month' | 'year') =>
    `${count} ${unit}${count === 1 ? '' : 's'}`,
  endOf: (day: string) => `the end of ${day}`,
};
