import type { Shown } from '../shown.js';

/** What the interface says: `web/src/app/rail`. */
export const say = {
  now: 'Now',
  theWordNow: 'now',
  theMomentThatIsShown: 'The moment that is shown',
  typeADayOrATime: 'Type a day, a time, or both: “24 Dec”, “tomorrow 9:00”, “now”',
  thatIsNoMoment: (text: Shown) => `“${text}” is no day or time`,
  backToNow: 'Back to now',
  whatGoesLiveAndComesOff: 'What goes live and comes off',
  seeThePortfolioAsOfThen: (value: Shown) => `${value}. See the portfolio as of then.`,
  shownMoment: 'Shown moment',
  dragOrUseTheArrowKeys: 'Drag, or use the arrow keys, to see another moment; with Alt, from one change to the next',
  howFarTheRailReaches: 'How far the rail reaches',
  zoomTheRailIn: 'Zoom the rail in',
  zoomIn: 'Zoom in',
  zoomTheRailOut: 'Zoom the rail out',
  zoomOut: 'Zoom out',
  n12HoursAboutNow: '12 hours about now',
  n2DaysBack5Ahead: '2 days back, 5 ahead',
  n30DaysBack90Ahead: '30 days back, 90 ahead',
  aYearBackAYearAhead: 'A year back, a year ahead',
  n5YearsAboutNow: '5 years about now',
  nothingIsPlanned: 'Nothing is planned',
  nextChange: (next: Shown) => `Next change ${next}`,
  goesLive: 'goes live',
  comesOff: 'comes off',
  andMore: (count: Shown) => `and ${count} more`,
  farFrom: (count: number, unit: 'year' | 'day' | 'hour' | 'minute', side: 'back' | 'ahead') =>
    `${count} ${unit}${count === 1 ? '' : 's'} ${side}`,
};
