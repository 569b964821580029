import { sketchesOf } from './content.js';
import { build, GONE, life, NOT_FOUND, to } from './build.js';
import type { DemoPage } from './scenario.js';

const STOPS = [
  'Skerrow',
  'Ansholm',
  'Hestvær',
  'Lyngskjær',
  'Tarvik',
  'Nordhamn',
  'Kelpholm',
  'Ramsøy',
  'Gannet Ness',
  'Oldervik',
  'Siltholm',
  'Brattvær',
  'Tern Island',
  'Klokkholm',
  'Eiderøy',
  'Stormskjær',
];
const VESSELS = ['Grey Auk', 'Lady of Ansholm', 'Northern Kelp', 'Tern', 'Old Harald', 'Guillemot'];
const SEA = ['ferry-day', 'ferry-dawn', 'islands-day', 'islands-dawn', 'quay-dawn', 'lighthouse-dusk'] as const;
const sea = (index: number) => SEA[index % SEA.length] as string;

/** The ferry company: timetables, crossings, fares, stops, notices and jobs. */
export function ferryPages(): DemoPage[] {
  return [
    ...sketchesOf('ferries').map((sketch) => build('ferries', sketch)),
    ...stops(),
    ...routes(),
    ...vessels(),
    ...fares(),
    ...notices(),
    ...sketchesOf('storm').map((sketch) => build('storm', sketch)),
    ...crew(),
  ];
}

function stops(): DemoPage[] {
  return STOPS.map((name, index) =>
    build('ferries', {
      name: `${name} landing`,
      path: landingPath(name),
      kicker: 'Landing place',
      heading: name,
      lead: `Where the boat puts in at ${name}, how to get there, and what is open when it does.`,
      picture: sea(index),
      visits: 4 + ((index * 7) % 26),
      drift: ((index % 5) - 2) * 0.004,
      prose: [
        `The pier at ${name} is a ${4 + (index % 9)} minute walk from the shop. There is a shelter, a lamp, and a bell to ring if nobody comes.`,
        'Wheelchairs board by the lower ramp at every state of the tide; ring the bell and wait for the crew.',
      ],
      button: ['When boats call', 'Winter timetable'],
      piece: 'Harbour desk',
      lives: [life(-560 + index * 9, null)],
    }),
  );
}
const landingPath = (name: string) =>
  `/stops/${name
    .toLowerCase()
    .replace(/æ/g, 'ae')
    .replace(/ø/g, 'o')
    .replace(/[^a-z]+/g, '-')}`;

function routes(): DemoPage[] {
  return STOPS.slice(0, 14).map((name, index) => {
    const other = STOPS[(index + 5) % STOPS.length] as string;
    const isSeasonal = index % 4 === 1;
    return build('ferries', {
      name: `${name} to ${other}`,
      kicker: isSeasonal ? 'May to September' : 'All year',
      heading: `${name} to ${other}`,
      lead: `${20 + index * 5} minutes across open water. ${isSeasonal ? 'Runs in the light half of the year.' : 'Runs in every season.'}`,
      picture: sea(index + 2),
      visits: 6 + ((index * 11) % 40),
      reasons: [
        'The crossing',
        ['How often', `${2 + (index % 5)} times a day, once on Sundays.`],
        ['How long', `${20 + index * 5} minutes, a little more against the tide.`],
        ['What it costs', `${9 + index} one way, half for the young.`],
      ],
      lives: isSeasonal ? [life(-205 + index, -56, to('ferries/Winter timetable'))] : [life(-480 + index * 5, null)],
    });
  });
}

function vessels(): DemoPage[] {
  return VESSELS.map((name, index) =>
    build('ferries', {
      name: `MV ${name}`,
      path: `/fleet/${name.toLowerCase().replace(/ /g, '-')}`,
      kicker: `Built ${1968 + index * 9}`,
      heading: `MV ${name}`,
      lead: `${80 + index * 30} seats, ${4 + index * 3} cars, and a galley that has never run out of coffee.`,
      layout: index % 2 ? 'over' : 'side',
      picture: sea(index + 1),
      visits: 5 + index * 3,
      prose: [
        `She was laid down in a yard that is a concert hall today, and has crossed the sound some ${(index + 3) * 21_000} times since.`,
      ],
      lives: [life(-530, index === 4 ? -30 : null, index === 4 ? GONE : null)],
    }),
  );
}

function fares(): DemoPage[] {
  return [2025, 2026].flatMap((year) =>
    ['Spring', 'Summer', 'Autumn', 'Winter'].map((season, index) => {
      const start = (year - 2026) * 365 - 300 + index * 91;
      return build('ferries', {
        name: `${season} offers ${year}`,
        path: `/offers/${season.toLowerCase()}-${year}`,
        kicker: `${season} ${year}`,
        heading: `${season} offers`,
        lead: `What was cheaper in the ${season.toLowerCase()} of ${year}.`,
        picture: sea(index),
        visits: 14 + index * 6,
        drift: -0.01,
        lives: [life(start, start + 91, index % 2 ? to('ferries/Marrowick ferries', 302) : NOT_FOUND)],
      });
    }),
  );
}

function notices(): DemoPage[] {
  return STOPS.slice(0, 10).map((name, index) => {
    const start = [-40, -19, -9, -3, 0, 3, 9, 17, 30, 52][index] as number;
    return build('ferries', {
      name: `Works at ${name}`,
      description: '',
      path: `/works/${index + 1}`,
      kicker: 'Notice',
      heading: `Works at ${name}`,
      lead: `The pier at ${name} is being mended. Boats put in at the north side; follow the lamps.`,
      layout: 'stacked',
      picture: null,
      visits: 8,
      prose: ['Allow five minutes more. The lower ramp is closed while the tide is out; the crew will help.'],
      lives: [
        life(start, start + 12 + index * 2, NOT_FOUND, {
          time: index === 4 ? '00:20' : '07:30',
          decided: start === 0 ? -1 : Math.min(start - 2, -1),
        }),
      ],
    });
  });
}

function crew(): DemoPage[] {
  const trades = [
    'Deckhand',
    'Engineer',
    'Cook',
    'Purser',
    'Mate',
    'Pier hand',
    'Skipper',
    'Apprentice',
    'Painter',
    'Galley hand',
    'Ticket clerk',
    'Rigger',
  ];
  const home = build('crew', {
    name: 'Crew wanted',
    path: '/',
    role: 'home',
    kicker: 'Work with us',
    heading: 'Crew wanted',
    lead: 'Two weeks on, two weeks off, and a cabin with your name on the door.',
    picture: 'ferry-dawn',
    visits: 46,
    drift: 0.004,
    campaign: 'Crew spring',
    lives: [life(-220, 33, NOT_FOUND)],
    reasons: [
      'What you get',
      ['Time', 'As many days off as on.'],
      ['A trade', 'We pay for the papers you need.'],
      ['Good food', 'The cook was hired first.'],
    ],
  });
  const jobs = trades.flatMap((trade, index) =>
    [2025, 2026].map((year): DemoPage => {
      const start = (year - 2026) * 365 - 150 + index * 14;
      return build('crew', {
        name: `${trade} ${year}`,
        path: `/${trade.toLowerCase().replace(/ /g, '-')}-${year}`,
        kicker: `Starts in spring ${year + 1}`,
        heading: `${trade} wanted`,
        lead: `We look for a ${trade.toLowerCase()} for the ${VESSELS[index % VESSELS.length]}. No papers needed to ask.`,
        layout: index % 3 ? 'side' : 'stacked',
        picture: index % 3 ? sea(index) : null,
        visits: 6 + (index % 5) * 3,
        ...(year === 2026 ? { campaign: 'Crew spring' } : {}),
        prose: ['Write three lines about yourself. We answer everybody within the week.'],
        lives: index === 11 && year === 2026 ? [] : [life(start, start + 110, index % 2 ? GONE : NOT_FOUND)],
      });
    }),
  );
  return [home, ...jobs];
}
