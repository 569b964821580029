import { at, build, GONE, life, NOT_FOUND, to, type Sketch } from './build.js';
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
    ...MAIN.map((sketch) => build('ferries', sketch)),
    ...stops(),
    ...routes(),
    ...vessels(),
    ...fares(),
    ...notices(),
    ...STORM.map((sketch) => build('storm', sketch)),
    ...crew(),
  ];
}

const MAIN: Sketch[] = [
  {
    name: 'Marrowick ferries',
    path: '/',
    role: 'home',
    kicker: 'Marrowick Coast',
    heading: 'Sixteen islands, one ticket home',
    lead: 'Boats every day of the year between the mainland and the outer islands. Buy on the quay, on board or here.',
    picture: 'ferry-day',
    visits: 610,
    drift: 0.002,
    lives: [life(-760, null)],
    made: -790,
    reasons: [
      'What people come here for',
      ['The timetable', 'Every sailing of the season on one page, with what changes on Sundays.', 'quay-dawn'],
      ['Fares', 'One price a crossing, whatever the hour. Children travel free with a grown-up.', 'islands-day'],
      ['The night boat', 'Leave after supper, wake among the outer islands.', 'ferry-night'],
    ],
    ask: ['The winter timetable is out', 'In force to the end of March.', 'See the sailings', 'Winter timetable'],
  },
  {
    name: 'Winter timetable',
    path: '/winter',
    kicker: 'In force to the end of March',
    heading: 'Winter timetable',
    lead: 'Fourteen sailings a day on the inner route, four to the outer islands. Times hold in all weather under force eight.',
    picture: 'ferry-dawn',
    visits: 308,
    drift: 0.006,
    lives: [life(-62, null, null, { decided: -215 })],
    campaign: 'Winter season',
    prose: [
      'The first boat leaves Marrowick at 06:10 on weekdays and 07:30 at weekends. The last boat back is the 22:40 from Ansholm.',
      'On Sundays the outer route runs twice. Bicycles travel free; dogs sit where they like, except in the galley.',
    ],
    reasons: [
      'Worth knowing',
      ['Force eight', 'Above it the outer route stops. The storm desk says so an hour ahead.'],
      ['Holidays', 'On 25 December and 1 January there is one boat at noon.'],
      ['Freight', 'Parcels go with every boat; pallets with the 06:10.'],
    ],
  },
  {
    name: 'Midwinter crossing',
    path: '/midwinter',
    kicker: '18 December to 6 January',
    heading: 'Cross in the quiet weeks',
    lead: 'One night boat, a warm cabin and the whole dark coast to yourself. From 42 a seat.',
    picture: 'night-boat-dusk',
    button: ['See the winter timetable', 'Winter timetable'],
    visits: 130,
    drift: 0.03,
    campaign: 'Midwinter 2026',
    reasons: [
      'Why in midwinter',
      [
        'Cabins that shut out the wind',
        'Every berth lies below deck three, with kettle and wool blankets.',
        'room-dusk',
      ],
      ['One fare, both ways', 'Return any night before 6 January on the same ticket.', 'ferry-night'],
      ['Kitchen until midnight', 'Chowder, rye bread, and the last of the plums.', 'table-night'],
    ],
    quote: ['We slept through the storm and woke up under the lighthouse.', 'Signe Dahl', 'sailed last January'],
    ask: ['Forty berths a night', 'They go in the order people ask.', 'See all sailings', 'Winter timetable'],
    later: {
      heading: 'Cross in the quiet weeks',
      lead: 'One night boat, a warm cabin and the whole dark coast to yourself. From 44 a seat, chowder included.',
    },
    lives: [
      life(-12, 26, to('ferries/Winter timetable'), { decided: -14 }),
      life(2, 26, to('ferries/Winter timetable'), { decided: -1, revision: 1 }),
    ],
  },
  {
    name: 'Harbour lights weekend',
    path: '/harbour-lights',
    kicker: 'First weekend of Advent',
    heading: 'Harbour lights',
    lead: 'Two evenings of lanterns on every quay from Marrowick to Skerrow, and a boat that stops at all of them.',
    layout: 'over',
    picture: 'quay-dusk',
    campaign: 'Midwinter 2026',
    visits: 0,
    prose: [
      'The boat leaves at 16:00 and comes back when the last lantern is out. Hot cider and flatbread on board.',
      'Bring something that shines. The school choir sings at Nordhamn at six.',
    ],
    lives: [life(2, 5, to('ferries/Midwinter crossing'), { decided: -6, time: '06:00' })],
  },
  {
    name: 'Gift vouchers',
    path: '/gift',
    kicker: 'Good for three years',
    heading: 'Give somebody the crossing',
    lead: 'A voucher for one seat, two seats, or a cabin under the stars. It comes on paper, or by mail within the hour.',
    picture: 'lighthouse-dusk',
    button: ['See what it is good for', 'Marrowick ferries'],
    visits: 70,
    drift: 0.012,
    lives: [life(-420, null)],
    quote: ['I have given nothing else for six years. Nobody has complained.', 'Arne Holm', 'Tarvik'],
  },
  {
    name: 'Autumn fares',
    path: '/autumn',
    kicker: 'September to November',
    heading: 'Autumn fares',
    lead: 'A third off every crossing after the holidays, on all routes.',
    picture: 'islands-dawn',
    visits: 60,
    drift: -0.02,
    lives: [life(-85, -5, to('ferries/Winter timetable', 301), { decided: -195 })],
  },
  {
    name: 'Summer 2026 fares',
    path: '/summer-26',
    kicker: 'June to August',
    heading: 'Summer fares 2026',
    lead: 'Day tickets, family tickets, and the long evening return.',
    picture: 'ferry-day',
    visits: 160,
    drift: -0.01,
    lives: [life(-178, -85, to('ferries/Autumn fares', 302), { decided: -190, end: '09:00' })],
  },
  {
    name: 'Summer 2024 fares',
    path: '/summer-2024',
    kicker: 'June to August 2024',
    heading: 'Summer fares 2024',
    lead: 'Day tickets and family tickets on all routes.',
    picture: 'islands-day',
    visits: 40,
    lives: [life(-900, -720, NOT_FOUND, { decided: -905 })],
  },
  {
    name: 'Press visits',
    path: '/press',
    kicker: 'For people who write',
    heading: 'Come and see for yourself',
    lead: 'We take journalists along on any boat. Tell us what you are after and when.',
    layout: 'stacked',
    picture: null,
    visits: 3,
    lives: [life(-640, null)],
    prose: [
      'Write two days ahead, one if the weather holds. Pictures of boats, crews and islands may be used freely with our name.',
    ],
  },
  {
    name: 'Night boat',
    path: '/night-boat',
    kicker: 'Every Friday',
    heading: 'The night boat',
    lead: 'Leaves Marrowick at 22:15, lies off Gannet Ness till dawn, and has you in Nordhamn for breakfast.',
    layout: 'over',
    picture: 'ferry-night',
    button: ['When it sails', 'Winter timetable'],
    visits: 112,
    drift: 0.01,
    lives: [life(-300, null)],
    quote: ['The engine hums, the stars turn, and nobody can reach you.', 'Liv Aasen', 'has sailed it forty times'],
  },
  {
    name: 'Link hub',
    path: '/links',
    kicker: 'Marrowick Coast',
    heading: 'Everything in one place',
    lead: 'Sailings, fares, lights, vouchers.',
    layout: 'stacked',
    picture: null,
    visits: 45,
    lives: [life(-260, null)],
    prose: ['The pages people ask for, kept up to date.'],
    ask: ['Ask the storm desk first', 'When it blows, times change.', 'Storm desk', 'storm/Storm desk'],
  },
  {
    name: 'Island hopping',
    path: '/island-hopping',
    kicker: 'May to September',
    heading: 'Five islands, four days',
    lead: 'A ticket that lets you off wherever it looks good.',
    picture: 'islands-day',
    visits: 30,
    drift: -0.015,
    lives: [life(-200, -55, to('ferries/Marrowick ferries', 302))],
    moves: [{ at: at(-120, '08:00'), path: '/hop' }],
  },
  {
    name: 'Thank you, voucher',
    path: '/gift/thanks',
    role: 'thank-you',
    kicker: 'It is on its way',
    heading: 'Thank you',
    lead: 'Your voucher will be with you within the hour.',
    layout: 'stacked',
    picture: null,
    visits: 6,
    lives: [life(-420, null)],
  },
  {
    name: 'Not found',
    path: '/-/not-found',
    role: 'not-found',
    kicker: 'Nothing moored here',
    heading: 'This page has sailed',
    lead: 'The address you asked for leads nowhere now. The timetable and the way home are one step away.',
    picture: 'lighthouse-night',
    button: ['To the first page', 'Marrowick ferries'],
    visits: 0,
    lives: [life(-700, null)],
  },
  {
    name: 'New Year boat',
    path: '/new-year',
    kicker: '31 December',
    heading: 'See the year out at sea',
    lead: 'One boat, one band, and fireworks from five islands.',
    layout: 'over',
    picture: 'lighthouse-night',
    campaign: 'Midwinter 2026',
    visits: 0,
    lives: [life(14, 38, GONE, { decided: -2 })],
  },
  {
    name: 'Easter sailings',
    path: '/easter',
    kicker: 'Easter 2027',
    heading: 'Extra boats at Easter',
    lead: 'Two more sailings a day on the outer route.',
    picture: 'ferry-dawn',
    visits: 0,
    lives: [life(84, 130, to('ferries/Marrowick ferries'), { decided: -3 })],
  },
  {
    name: 'Spring timetable',
    path: '/spring',
    kicker: 'From 1 April',
    heading: 'Spring timetable',
    lead: 'Longer days, later boats.',
    picture: 'islands-dawn',
    visits: 0,
    lives: [],
  },
  {
    name: 'Crew and family days',
    path: '/family-days',
    kicker: 'An idea for May',
    heading: 'Family days on board',
    lead: 'Children steer, grown-ups make the coffee.',
    picture: 'ferry-day',
    visits: 0,
    lives: [],
  },
];

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

const STORM: Sketch[] = [
  {
    name: 'Storm desk',
    path: '/',
    role: 'home',
    kicker: 'Updated at every change',
    heading: 'All boats are running',
    lead: 'Wind north-west, six, easing. No sailing is expected to be cancelled before tomorrow noon.',
    layout: 'stacked',
    picture: null,
    visits: 520,
    drift: 0.001,
    lives: [life(-700, null)],
    prose: ['When a boat is late or does not sail, it says so here first, then on the quay, then everywhere else.'],
    ask: [
      'Know before you go',
      'The timetable shows which sailings can be moved.',
      'Winter timetable',
      'ferries/Winter timetable',
    ],
  },
  {
    name: 'What force eight means',
    path: '/force-eight',
    kicker: 'For everyone who waits',
    heading: 'When the outer route stops',
    lead: 'The skipper decides, and nobody argues.',
    picture: 'ferry-storm',
    visits: 34,
    lives: [life(-640, null)],
  },
  {
    name: 'Claims after a cancelled boat',
    path: '/claims',
    kicker: 'Within thirty days',
    heading: 'Your money back',
    lead: 'Keep the ticket, write the date on it, hand it in.',
    layout: 'stacked',
    picture: null,
    visits: 12,
    lives: [life(-600, null)],
  },
  {
    name: 'Storm of February',
    path: '/february',
    kicker: 'Over',
    heading: 'The storm of February',
    lead: 'Three days without a boat, and what we learned.',
    picture: 'lighthouse-storm',
    visits: 9,
    drift: -0.01,
    lives: [life(-285, -200, to('storm/Storm desk'))],
  },
];

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
