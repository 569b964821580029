import { stock } from './stock.js';
import { papers } from './papers.js';
import { ferryPages } from './ferries.js';
import { orchardPages, placePages } from './places.js';
import { coastFrames, orchardFrames } from './frames.js';
import { coastLegalPages, orchardLegalPages } from './legal.js';
import type { DemoScenario } from './scenario.js';

export * from './scenario.js';
export { demoPictures, type DemoPicture } from './pictures.js';
export { writePaper, type DemoPaper } from './papers.js';
export { randomFrom, seedOf } from './random.js';

const coastPages = () => [...ferryPages(), ...placePages(), ...coastLegalPages()];
const ninePages = () => [...orchardPages(), ...orchardLegalPages()];

/** The demo: two clients, their people, about 300 pages with a past, a present and a future. */
export function demoScenario(listService: string): DemoScenario {
  return {
    listService,
    seed: 20_26,
    password: 'midwinter-crossing',
    accounts: [
      { email: 'ingrid.vale@marrowick.example', name: 'Ingrid Vale' },
      { email: 'tomas.renn@marrowick.example', name: 'Tomas Renn' },
      { email: 'maren.holt@marrowick.example', name: 'Maren Holt' },
      { email: 'joss.arden@marrowick.example', name: 'Joss Arden' },
      { email: 'petra.oakes@ninemile.example', name: 'Petra Oakes' },
    ],
    portfolios: [
      {
        name: 'Marrowick Coast',
        slug: 'marrowick-coast',
        zone: 'Europe/Oslo',
        ownHost: 'marrowick-coast.domatium.example',
        domains: [
          'marrowick.example',
          'lanternhouse.example',
          'tidehall.example',
          'skerrowsail.example',
          'kelpandsmoke.example',
          'islandpass.example',
        ],
        sites: [
          {
            key: 'ferries',
            name: 'Ferries',
            brand: 'Marrowick',
            host: 'marrowick.example',
            basePath: '/',
            theme: 'ferry',
          },
          {
            key: 'storm',
            name: 'Storm desk',
            brand: 'Marrowick Storm Desk',
            host: 'storm.marrowick.example',
            basePath: '/',
            theme: 'ferry',
          },
          {
            key: 'crew',
            name: 'Crew',
            brand: 'Marrowick Crew',
            host: 'crew.marrowick.example',
            basePath: '/',
            theme: 'ferry',
            approvals: 1,
          },
          {
            key: 'lantern',
            name: 'Lantern House',
            brand: 'Lantern House',
            host: 'lanternhouse.example',
            basePath: '/',
            theme: 'lantern',
          },
          {
            key: 'tide',
            name: 'Tide Hall',
            brand: 'Tide Hall',
            host: 'tidehall.example',
            basePath: '/',
            theme: 'tide',
          },
          {
            key: 'sail',
            name: 'Skerrow Sail',
            brand: 'Skerrow Sail',
            host: 'skerrowsail.example',
            basePath: '/',
            theme: 'sail',
          },
          {
            key: 'smoke',
            name: 'Kelp & Smoke',
            brand: 'Kelp & Smoke',
            host: 'kelpandsmoke.example',
            basePath: '/',
            theme: 'smoke',
          },
          {
            key: 'pass',
            name: 'Island pass',
            brand: 'Island Pass',
            host: 'islandpass.example',
            basePath: '/',
            theme: 'sail',
          },
          {
            key: 'trial',
            name: 'Trial run',
            brand: 'Marrowick',
            host: 'marrowick-coast.domatium.example',
            basePath: '/trial',
            theme: 'ferry',
          },
        ],
        stock,
        frames: coastFrames(coastPages()),
        papers,
        campaigns: [
          {
            name: 'Midwinter 2026',
            purpose: 'Fill the night crossing and both hotels between Advent and New Year.',
            days: [-13, 38],
            owner: 'tomas.renn@marrowick.example',
          },
          {
            name: 'Island pass 2027',
            purpose: 'Sell half of the passes before the year is out.',
            days: [6, 127],
            owner: 'ingrid.vale@marrowick.example',
          },
          {
            name: 'Crew spring',
            purpose: 'Forty people on board by April.',
            days: [-150, 60],
            owner: 'maren.holt@marrowick.example',
          },
          {
            name: 'Winter season',
            purpose: 'Everything that holds from the first frost to Easter.',
            days: [-40, 125],
            owner: 'ingrid.vale@marrowick.example',
          },
        ],
        templates: [
          {
            page: 'Midwinter crossing',
            notes: 'For a crossing with a date. Change the picture, the date in the kicker, and the button.',
          },
          {
            page: 'Crew wanted',
            notes: 'For a call for people. Keep the three reasons; they are the same everywhere.',
          },
        ],
        tasks: [
          {
            page: 'Midwinter crossing',
            text: 'Say which deck is heated',
            person: 'ingrid.vale@marrowick.example',
            day: -2,
          },
          {
            page: 'Harbour lights weekend',
            text: 'Ask the choir for a picture',
            person: 'ingrid.vale@marrowick.example',
            day: 1,
          },
          {
            page: 'New Year boat',
            text: 'Check the price with the desk',
            person: 'tomas.renn@marrowick.example',
            day: 6,
          },
          { page: 'Crew wanted', text: 'Shorten the opening', person: 'maren.holt@marrowick.example', day: -1 },
        ],
        labels: [
          { name: 'timetable', words: ['timetable', 'School crossings', 'fares'] },
          { name: 'event', words: ['concert', 'residency', 'weekend', 'exhibition'] },
          { name: 'jobs', words: ['Crew wanted', '2025', '2026'] },
          {
            name: 'landing',
            words: ['Gift vouchers', 'New Year boat', 'First week 2027', 'Pass as a gift', 'Winter cider'],
          },
        ],
        members: [
          { email: 'ingrid.vale@marrowick.example', role: 'owner' },
          { email: 'tomas.renn@marrowick.example', role: 'publisher' },
          { email: 'maren.holt@marrowick.example', role: 'author' },
          { email: 'joss.arden@marrowick.example', role: 'reader' },
        ],
        pages: coastPages(),
      },
      {
        name: 'Nine Mile Orchard',
        slug: 'nine-mile-orchard',
        zone: 'Europe/London',
        ownHost: 'nine-mile-orchard.domatium.example',
        domains: ['ninemile.example'],
        sites: [
          {
            key: 'orchard',
            name: 'Nine Mile Orchard',
            brand: 'Nine Mile Orchard',
            host: 'ninemile.example',
            basePath: '/',
            theme: 'orchard',
          },
        ],
        frames: orchardFrames(ninePages()),
        campaigns: [
          {
            name: 'Harvest',
            purpose: 'A full orchard on the harvest weekend.',
            days: [-90, -20],
            owner: 'petra.oakes@ninemile.example',
          },
        ],
        templates: [],
        tasks: [],
        labels: [],
        members: [
          { email: 'petra.oakes@ninemile.example', role: 'owner' },
          { email: 'ingrid.vale@marrowick.example', role: 'publisher' },
        ],
        pages: ninePages(),
      },
    ],
  };
}
