import { at, build, GONE, life, NOT_FOUND, to, type Sketch } from './build.js';
import type { DemoPage } from './scenario.js';

const MONTHS = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
];
const STOP = (name: string) => name.toLowerCase().replace(/[^a-z0-9]+/g, '-');

/** Hotels, hall, sailing school, smokehouse and pass. */
export function placePages(): DemoPage[] {
  return [...hotel(), ...hall(), ...school(), ...smokehouse(), ...pass()];
}

function notFound(site: string, home: string, picture: string, heading: string): DemoPage {
  return build(site, {
    name: `Not found, ${home}`,
    path: '/-/not-found',
    role: 'not-found',
    kicker: 'No such page',
    heading,
    lead: 'What was here has moved on, or never was. The first page knows the rest.',
    picture,
    button: ['To the first page', home],
    lives: [life(-600, null)],
    visits: 0,
  });
}

function hotel(): DemoPage[] {
  const main: Sketch[] = [
    {
      name: 'Lantern House',
      path: '/',
      role: 'home',
      kicker: 'Two houses on the quay at Skerrow',
      heading: 'A lit window at the end of the boat ride',
      lead: 'Nineteen rooms between two old houses, a stove in each, and the sea on three sides.',
      layout: 'over',
      picture: 'house-dusk',
      visits: 190,
      drift: 0.004,
      lives: [life(-720, null)],
      made: -740,
      reasons: [
        'The house',
        ['Rooms', 'Each one faces water.', 'room-dawn'],
        ['Supper', 'One table, one menu, at seven.', 'table-dusk'],
        ['The way here', 'The boat stops at the door.', 'ferry-dawn'],
      ],
      quote: ['You hear the bell, then the sea, then nothing at all.', 'Ruth Okafor', 'stayed in March'],
    },
    {
      name: 'Lantern House rooms',
      path: '/rooms',
      kicker: 'Nineteen of them',
      heading: 'The rooms',
      lead: 'Wide beds, wool, a kettle, and a window seat that people fight over.',
      picture: 'room-dawn',
      visits: 200,
      drift: 0.003,
      button: ['About the house', 'Lantern House'],
      lives: [life(-700, null)],
      reasons: [
        'Three kinds',
        ['Quay rooms', 'Over the boats. You wake with the first one.', 'quay-dawn'],
        ['Garden rooms', 'Behind the house, quiet, with the apple trees.', 'orchard-dawn'],
        ['The tower', 'One room, forty steps, all the light there is.', 'lighthouse-dusk'],
      ],
    },
    {
      name: 'Lantern House spring',
      path: '/spring',
      kicker: 'March and April',
      heading: 'Before everybody else comes',
      lead: 'Three nights for two, and the island to yourselves.',
      picture: 'house-dawn',
      visits: 0,
      lives: [],
    },
    {
      name: 'Supper at seven',
      path: '/supper',
      kicker: 'Every evening',
      heading: 'Supper at seven',
      lead: 'Four courses from within sight of the table.',
      picture: 'table-night',
      visits: 64,
      lives: [life(-500, null)],
      quote: ['I asked for the recipe. They gave me the fish.', 'Tom Ellery', 'guest'],
    },
    {
      name: 'Kelp supper club',
      path: '/kelp',
      kicker: 'Eight evenings in December',
      heading: 'Kelp supper club',
      lead: 'The smokehouse comes to the house: twelve guests, one long table.',
      layout: 'over',
      picture: 'table-dusk',
      campaign: 'Midwinter 2026',
      visits: 0,
      lives: [life(8, 48, to('lantern/Lantern House'), { decided: -4 })],
    },
    {
      name: 'Weddings',
      path: '/weddings',
      kicker: 'For up to sixty',
      heading: 'Say it by the sea',
      lead: 'The whole house, for one long weekend.',
      picture: 'house-night',
      visits: 25,
      lives: [life(-380, null)],
    },
    {
      name: 'Thank you, room request',
      path: '/rooms/thanks',
      role: 'thank-you',
      kicker: 'We have it',
      heading: 'Thank you',
      lead: 'We answer within the day, usually within the tide.',
      layout: 'stacked',
      picture: null,
      visits: 9,
      lives: [life(-600, null)],
    },
  ];
  const breaks = [2025, 2026].flatMap((year) =>
    MONTHS.map((month, index) => {
      const start = (year - 2026) * 365 - 323 + index * 30;
      const isDraft = year === 2026 && start > 60;
      return build('lantern', {
        name: `${month} break ${year}`,
        path: `/breaks/${year}-${STOP(month)}`,
        kicker: `${month} ${year}`,
        heading: `Two nights in ${month}`,
        lead: `What ${month} is good for on an island, with supper and the boat.`,
        picture: ['room-dusk', 'house-dawn', 'table-night', 'house-night'][index % 4] as string,
        visits: 12 + (index % 4) * 5,
        drift: -0.006,
        lives: isDraft
          ? []
          : [
              life(start, start + 42, index % 3 ? to('lantern/Lantern House') : NOT_FOUND, {
                decided: Math.min(start - 10, -1),
              }),
            ],
      });
    }),
  );
  const rooms = ['Quay', 'Garden', 'Tower', 'Captain’s', 'Loft', 'Boathouse'].flatMap((kind) =>
    [1, 2].map((n) =>
      build('lantern', {
        name: `${kind} room ${n}`,
        kicker: 'Rooms',
        heading: `The ${kind} room ${n}`,
        lead: 'A bed, a stove, a window, and no reason to leave.',
        picture: n === 1 ? 'room-dusk' : 'room-dawn',
        visits: 7 + n * 4,
        button: ['All rooms', 'Lantern House rooms'],
        lives: [life(-450, null)],
      }),
    ),
  );
  const packages = [
    'Book week',
    'Swim and sauna',
    'Slow Sunday',
    'Storm watching',
    'Walking days',
    'Painters’ week',
    'Birds in passage',
    'Knitting days',
    'Star nights',
    'Cider evenings',
    'Yoga in the loft',
    'Foragers’ day',
    'Working winter',
    'Long lunch',
    'Family half term',
    'Anniversary',
  ].map((name, index) => {
    const start = -260 + index * 21;
    return build('lantern', {
      name,
      kicker: 'Days with a purpose',
      heading: name,
      lead: 'Three days, a small group, and somebody who knows.',
      layout: index % 4 === 2 ? 'over' : 'side',
      picture: ['house-dusk', 'room-dawn', 'table-dusk', 'lighthouse-dusk'][index % 4] as string,
      visits: 10 + (index % 6) * 4,
      drift: ((index % 5) - 2) * 0.008,
      lives: [
        life(start, start + 60, index % 2 ? to('lantern/Lantern House', 302) : GONE, {
          decided: Math.min(start - 8, -1),
        }),
      ],
    });
  });
  return [
    ...main.map((sketch) => build('lantern', sketch)),
    ...breaks,
    ...rooms,
    ...packages,
    notFound('lantern', 'Lantern House', 'house-night', 'This room does not exist'),
  ];
}

function hall(): DemoPage[] {
  const main: Sketch[] = [
    {
      name: 'Tide Hall',
      path: '/',
      role: 'home',
      kicker: 'In the old boatyard',
      heading: 'Where they built boats, people listen',
      lead: 'Exhibitions, concerts and talks under ninety metres of roof.',
      layout: 'over',
      picture: 'hall-night',
      visits: 140,
      drift: 0.003,
      lives: [life(-730, null)],
      made: -745,
      reasons: [
        'This winter',
        ['Hear', 'Thursdays, from eight.', 'hall-dusk'],
        ['Look', 'Every day but Monday.', 'hall-day'],
        ['Stay', 'The bar is open till the last boat.', 'table-night'],
      ],
    },
    {
      name: 'Quay No. 4 residency',
      path: '/quay-four',
      kicker: 'Three weeks, three times',
      heading: 'Quay No. 4',
      lead: 'Four players, one hall, and new music written for its echo.',
      picture: 'hall-dusk',
      visits: 48,
      drift: 0.02,
      lives: [
        life(-8, 12, to('tide/Tide Hall'), { decided: -20 }),
        life(30, 51, to('tide/Tide Hall'), { decided: -20 }),
        life(74, 95, to('tide/Tide Hall'), { decided: -20 }),
      ],
      quote: ['The roof plays along.', 'Elin Marsh', 'cellist'],
    },
    {
      name: 'School crossings',
      path: '/schools',
      kicker: 'For classes of all ages',
      heading: 'A day on the slipway',
      lead: 'Draw it, build it, float it. The boat there is free for schools.',
      picture: 'hall-day',
      visits: 14,
      lives: [life(-410, null)],
    },
    {
      name: 'Hire the hall',
      path: '/hire',
      kicker: 'For up to six hundred',
      heading: 'Bring your own echo',
      lead: 'A floor, a roof, a view and two good doors.',
      picture: 'hall-day',
      visits: 16,
      lives: [life(-400, null)],
    },
  ];
  const artists = [
    'Elin Marsh',
    'The Low Tide Trio',
    'Oskar Venn',
    'Saltwater Choir',
    'Ida Kroll',
    'Northern Reeds',
    'Paper Boats',
    'Hanna Lode',
    'Slipway Sessions',
    'Ravn and Daughter',
    'Glass Harbour',
    'Men Who Rope',
    'Aud Stille',
    'Copper Nails',
  ];
  const events = artists.flatMap((name, index) =>
    [0, 1, 2].map((round) => {
      const start = -420 + round * 190 + index * 17;
      return build('tide', {
        name: round ? `${name}, ${['', 'second night', 'winter concert'][round]}` : name,
        kicker: round === 1 ? 'Exhibition' : 'Concert',
        heading: name,
        lead: round === 1 ? 'Works on paper, wood and water.' : 'One evening, no break, doors at seven.',
        layout: index % 2 ? 'over' : 'side',
        picture: ['hall-night', 'hall-dusk', 'quay-dusk'][(index + round) % 3] as string,
        visits: 9 + (index % 7) * 4,
        drift: 0.005,
        lives: [
          life(start, start + 16 + round * 9, round === 2 ? NOT_FOUND : to('tide/Tide Hall'), {
            decided: Math.min(start - 30, -2),
          }),
        ],
      });
    }),
  );
  return [
    ...main.map((sketch) => build('tide', sketch)),
    ...events,
    notFound('tide', 'Tide Hall', 'hall-day', 'An empty stage'),
  ];
}

function school(): DemoPage[] {
  const home = build('sail', {
    name: 'Skerrow Sail',
    path: '/',
    role: 'home',
    kicker: 'Sailing school since 1961',
    heading: 'Learn it where the wind is',
    lead: 'Small boats, small groups, and water that teaches fast.',
    picture: 'sails-day',
    visits: 52,
    lives: [life(-650, null)],
    made: -660,
    reasons: [
      'How it goes',
      ['One week', 'You sail alone by Friday.', 'sails-dawn'],
      ['Four to a boat', 'And one of them is the teacher.', 'sails-day'],
      ['Dry clothes', 'There is a stove in the boathouse.', 'quay-dawn'],
    ],
  });
  const courses = [
    'First week',
    'Second week',
    'Dinghy summer',
    'Juniors',
    'Night sailing',
    'Navigation',
    'Radio licence',
    'Women at the helm',
    'Over sixties',
    'Race week',
    'Knots and splices',
    'Engine care',
    'Cruising skipper',
    'Instructor course',
  ];
  const pages = courses.flatMap((name, index) =>
    [2026, 2027].map((year) => {
      const start = year === 2026 ? -230 + index * 9 : 40 + index * 12;
      const isDraft = year === 2027 && index > 6;
      return build('sail', {
        name: `${name} ${year}`,
        kicker: `${year === 2026 ? 'May to September' : 'Book from the new year'}`,
        heading: name,
        lead: `Five days, four people a boat, from ${180 + index * 25}.`,
        picture: ['sails-day', 'sails-dawn', 'sails-dusk'][index % 3] as string,
        visits: year === 2026 ? 11 + index : 0,
        lives: isDraft
          ? []
          : [
              life(start, start + 120, year === 2026 ? to('sail/Skerrow Sail') : NOT_FOUND, {
                decided: Math.min(start - 20, -4),
              }),
            ],
      });
    }),
  );
  return [home, ...pages, notFound('sail', 'Skerrow Sail', 'sails-dusk', 'No wind here')];
}

function smokehouse(): DemoPage[] {
  const home = build('smoke', {
    name: 'Kelp & Smoke',
    path: '/',
    role: 'home',
    kicker: 'Smokehouse and table, Nordhamn',
    heading: 'Fish, fire, and time',
    lead: 'We smoke in the morning and serve until it is gone.',
    layout: 'over',
    picture: 'table-dusk',
    visits: 88,
    drift: 0.002,
    lives: [life(-600, null)],
    made: -620,
    quote: ['There is no menu. There is what there is, and it is very good.', 'Petra Oakes', 'comes every Friday'],
  });
  const weeks = Array.from({ length: 14 }, (_, index) => {
    const start = -70 + index * 7;
    return build('smoke', {
      name: `Menu, week ${index + 38}`,
      path: `/menu/week-${index + 38}`,
      kicker: 'This week',
      heading: [
        'Eel and beetroot',
        'Cod cheeks',
        'Mackerel, three ways',
        'Crab and brown bread',
        'Herring week',
        'Smoked roe',
        'Plaice on the bone',
      ][index % 7] as string,
      lead: 'Served from noon, until the last piece is gone.',
      layout: index % 2 ? 'side' : 'stacked',
      picture: index % 2 ? 'table-night' : null,
      visits: 13,
      lives: [life(start, start + 7, to('smoke/Kelp & Smoke'), { decided: Math.min(start - 2, -1), time: '00:00' })],
    });
  });
  const main: Sketch[] = [
    {
      name: 'Book a table',
      path: '/table',
      kicker: 'Thirty-two seats',
      heading: 'Book a table',
      lead: 'Call before ten, or come and wait by the fire.',
      picture: 'table-night',
      visits: 41,
      lives: [life(-500, null)],
    },
    {
      name: 'Christmas smoke',
      path: '/christmas',
      kicker: 'Order by 15 December',
      heading: 'Christmas smoke',
      lead: 'Whole sides, cut and wrapped, sent with the boat.',
      picture: 'table-dusk',
      campaign: 'Midwinter 2026',
      visits: 22,
      drift: 0.04,
      lives: [life(-9, 21, GONE)],
    },
  ];
  return [
    home,
    ...weeks,
    ...main.map((sketch) => build('smoke', sketch)),
    notFound('smoke', 'Kelp & Smoke', 'table-night', 'Gone up in smoke'),
  ];
}

function pass(): DemoPage[] {
  const years: [number, number, number | null][] = [
    [2025, -690, -330],
    [2026, -326, 6],
  ];
  const old = years.map(([year, from, until]) =>
    build('pass', {
      name: `Island pass ${year}`,
      path: '/',
      role: 'home',
      kicker: `The year ${year}`,
      heading: 'One pass, every island',
      lead: `All boats, the hall, and a tenth off at the house, for the whole of ${year}.`,
      picture: 'islands-day',
      visits: year === 2026 ? 58 : 40,
      drift: -0.004,
      lives: [life(from, until, to('pass/How the pass works'), { end: '10:00' })],
    }),
  );
  const sketches: Sketch[] = [
    {
      name: 'Island pass 2027',
      path: '/',
      role: 'home',
      kicker: 'On sale from 10:00 on the day',
      heading: 'The year 2027, all of it',
      lead: 'Every boat, every island, every concert in the hall. 4,000 passes, and then none.',
      layout: 'over',
      picture: 'islands-dawn',
      campaign: 'Island pass 2027',
      visits: 0,
      lives: [life(6, null, null, { time: '10:00', decided: -11 })],
      reasons: [
        'What it opens',
        ['Boats', 'As often as you like, night boat included.', 'ferry-night'],
        ['The hall', 'Any evening with an empty seat.', 'hall-night'],
        ['The house', 'A tenth off every room.', 'house-dusk'],
      ],
      ask: ['Not sure yet?', 'Read how the pass works.', 'How it works', 'How the pass works'],
    },
    {
      name: 'Island pass 2027: thank you',
      path: '/thanks',
      role: 'thank-you',
      kicker: 'Welcome aboard',
      heading: 'Thank you',
      lead: 'Your pass is on its way; the mail that comes now gets you on board.',
      layout: 'stacked',
      picture: null,
      campaign: 'Island pass 2027',
      visits: 0,
      lives: [life(6, null, null, { time: '10:00', decided: -11 })],
    },
    {
      name: 'How the pass works',
      path: '/how',
      kicker: 'In four lines',
      heading: 'How the pass works',
      lead: 'Show it, board, sit down, look out.',
      picture: 'ferry-dawn',
      visits: 21,
      lives: [life(-690, null, null, { decided: -695 })],
      made: -700,
      moves: [{ at: at(-200, '12:00'), path: '/how-it-works' }],
    },
    {
      name: 'Pass holders’ evening',
      path: '/evening',
      kicker: 'By invitation',
      heading: 'An evening for those who hold it',
      lead: 'Chowder, music, and next year’s timetable before anybody else sees it.',
      picture: 'quay-dusk',
      campaign: 'Island pass 2027',
      visits: 5,
      lives: [life(-4, 9, GONE)],
    },
    {
      name: 'Pass for schools',
      path: '/schools',
      kicker: 'Classes of up to thirty',
      heading: 'Take the whole class',
      lead: 'One pass, one teacher, every island.',
      picture: 'islands-day',
      visits: 7,
      lives: [life(-300, null)],
    },
    {
      name: 'Pass as a gift',
      path: '/gift',
      kicker: 'In a wooden box',
      heading: 'Give the whole coast',
      lead: 'The pass in a box made from old deck planks.',
      picture: 'lighthouse-dusk',
      campaign: 'Island pass 2027',
      visits: 0,
      lives: [life(7, 40, to('pass/How the pass works'), { decided: -3 })],
    },
  ];
  const partners = [
    'Bakery',
    'Bicycle shed',
    'Museum',
    'Pottery',
    'Sauna',
    'Bookshop',
    'Kayak hire',
    'Cinema',
    'Dairy',
    'Net loft',
  ].map((name, index) =>
    build('pass', {
      name: `Partner: ${name}`,
      path: `/partners/${STOP(name)}`,
      kicker: 'With the pass',
      heading: name,
      lead: `What pass holders get at the ${name.toLowerCase()}.`,
      layout: 'stacked',
      picture: null,
      visits: 3 + index,
      lives: [life(-280, index === 3 ? -20 : null, index === 3 ? NOT_FOUND : null)],
    }),
  );
  return [
    ...old,
    ...sketches.map((sketch) => build('pass', sketch)),
    ...partners,
    notFound('pass', 'How the pass works', 'islands-dawn', 'Off the chart'),
  ];
}

/** The second client: an orchard with cider and a harvest weekend. */
export function orchardPages(): DemoPage[] {
  const owner = 'petra.oakes@ninemile.example';
  const sketches: Sketch[] = [
    {
      name: 'Nine Mile Orchard',
      path: '/',
      role: 'home',
      kicker: 'Cider since the long frost',
      heading: 'Four hundred trees and one press',
      lead: 'We grow it, press it, and wait. Come and taste the waiting.',
      layout: 'over',
      picture: 'orchard-harvest',
      visits: 60,
      lives: [life(-500, null)],
      made: -520,
      reasons: [
        'The cider',
        ['Dry', 'For fish and long talks.'],
        ['Half dry', 'For everything else.'],
        ['Ice', 'A small glass, after.'],
      ],
    },
    {
      name: 'Harvest weekend',
      path: '/harvest',
      kicker: 'First weekend of October',
      heading: 'Harvest weekend',
      lead: 'Pick, press, sing, sleep in the barn.',
      picture: 'orchard-harvest',
      visits: 34,
      drift: -0.02,
      campaign: 'Harvest',
      lives: [life(-120, -50, to('orchard/Nine Mile Orchard'))],
    },
    {
      name: 'Harvest weekend 2027',
      path: '/harvest-2027',
      kicker: 'October 2027',
      heading: 'Harvest weekend 2027',
      lead: 'The date is set; the barn is bigger.',
      picture: 'orchard-dawn',
      campaign: 'Harvest',
      visits: 0,
      lives: [],
    },
    {
      name: 'Adopt a tree',
      path: '/adopt',
      kicker: 'For one year',
      heading: 'Adopt a tree',
      lead: 'Its apples are yours, and so is the pruning.',
      picture: 'orchard-dawn',
      visits: 12,
      lives: [life(-300, null)],
    },
    {
      name: 'Winter cider',
      path: '/winter-cider',
      kicker: 'From 1 December',
      heading: 'Winter cider',
      lead: 'Spiced, warm, in bottles that fit a coat pocket.',
      picture: 'table-night',
      visits: 0,
      lives: [life(6, 95, to('orchard/Nine Mile Orchard'), { decided: -5 })],
    },
    {
      name: 'Find us',
      path: '/find',
      kicker: 'Nine miles from anywhere',
      heading: 'Find us',
      lead: 'Down the lane, left at the white gate.',
      layout: 'stacked',
      picture: null,
      visits: 9,
      lives: [life(-480, null)],
    },
    {
      name: 'Not found, orchard',
      path: '/-/not-found',
      role: 'not-found',
      kicker: 'Nothing on this branch',
      heading: 'No such apple',
      lead: 'Try the first page.',
      picture: 'orchard-dawn',
      button: ['To the first page', 'Nine Mile Orchard'],
      visits: 0,
      lives: [life(-480, null)],
    },
  ];
  const varieties = [
    'Grey Nell',
    'Longstem',
    'Miller’s Russet',
    'Bell Sweeting',
    'Old Harry',
    'Frostcheek',
    'Candle',
    'Tin Pippin',
  ].map(
    (name, index) =>
      ({
        name: `${name} apple`,
        kicker: 'Our trees',
        heading: name,
        lead: 'Where it came from, what it tastes of, and when it is ready.',
        picture: index % 2 ? 'orchard-harvest' : 'orchard-dawn',
        visits: 3 + index,
        lives: [life(-260 + index, null)],
      }) satisfies Sketch,
  );
  return [...sketches, ...varieties].map((sketch) => build('orchard', { owner, ...sketch }));
}
