import { sketchesOf } from './content.js';
import { build, GONE, life, NOT_FOUND, to, type Sketch } from './build.js';
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
  const main = sketchesOf('lantern');
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
  const main = sketchesOf('tide');
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
      ['One week', 'You sail alone by Friday.', 'sails-dawn', 'ferries/Winter timetable'],
      ['Four to a boat', 'And one of them is the teacher.', 'sails-day', 'tide/School crossings'],
      ['Dry clothes', 'There is a stove in the boathouse.', 'quay-dawn', 'lantern/Lantern House rooms'],
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
  const main = sketchesOf('smoke');
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
  const sketches = sketchesOf('pass');
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
      // The others are kept out by what is said of their path.
      ...(index === 4 ? { isUnsearched: true as const } : {}),
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
  const sketches = sketchesOf('orchard');
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
