// node tools/icons.mjs: draws the icons that pages can have from Bootstrap Icons (MIT) into core/src/icons/set.ts.
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { format, resolveConfig } from 'prettier';
import { ROOT } from './processes.mjs';

/** What an icon is called on pages and its label, by the name of its drawing. */
const ICONS = {
  check2: ['check', 'Check mark'],
  star: ['star', 'Star'],
  heart: ['heart', 'Heart'],
  clock: ['clock', 'Clock'],
  'calendar-event': ['calendar', 'Calendar'],
  'hourglass-split': ['hourglass', 'Hourglass'],
  'geo-alt': ['place', 'Place'],
  map: ['map', 'Map'],
  compass: ['compass', 'Compass'],
  'signpost-2': ['signpost', 'Signpost'],
  house: ['house', 'House'],
  building: ['building', 'Building'],
  shop: ['shop', 'Shop'],
  hospital: ['hospital', 'Hospital'],
  bank: ['bank', 'Public building'],
  tree: ['tree', 'Tree'],
  flower1: ['flower', 'Flower'],
  sun: ['sun', 'Sun'],
  'moon-stars': ['moon', 'Moon'],
  cloud: ['cloud', 'Cloud'],
  snow: ['snow', 'Snow'],
  umbrella: ['umbrella', 'Umbrella'],
  water: ['water', 'Water'],
  fire: ['fire', 'Fire'],
  lightning: ['lightning', 'Lightning'],
  'thermometer-half': ['thermometer', 'Thermometer'],
  bicycle: ['bicycle', 'Bicycle'],
  'bus-front': ['bus', 'Bus'],
  'train-front': ['train', 'Train'],
  'car-front': ['car', 'Car'],
  truck: ['truck', 'Lorry'],
  airplane: ['plane', 'Plane'],
  person: ['person', 'Person'],
  people: ['people', 'People'],
  'person-wheelchair': ['wheelchair', 'Wheelchair'],
  'chat-dots': ['talk', 'Talk'],
  telephone: ['phone', 'Phone'],
  envelope: ['letter', 'Letter'],
  megaphone: ['megaphone', 'Megaphone'],
  bell: ['bell', 'Bell'],
  camera: ['camera', 'Camera'],
  film: ['film', 'Film'],
  'music-note-beamed': ['music', 'Music'],
  mic: ['microphone', 'Microphone'],
  book: ['book', 'Book'],
  newspaper: ['newspaper', 'Newspaper'],
  'file-earmark-text': ['document', 'Document'],
  download: ['download', 'Download'],
  printer: ['printer', 'Printer'],
  pencil: ['pencil', 'Pencil'],
  palette: ['palette', 'Palette'],
  tools: ['tools', 'Tools'],
  gear: ['gear', 'Gear'],
  laptop: ['computer', 'Computer'],
  wifi: ['wireless', 'Wireless'],
  globe: ['globe', 'Globe'],
  translate: ['languages', 'Languages'],
  search: ['search', 'Magnifier'],
  eye: ['eye', 'Eye'],
  'shield-check': ['shield', 'Shield'],
  lock: ['lock', 'Lock'],
  key: ['key', 'Key'],
  'credit-card': ['card', 'Payment card'],
  'cash-coin': ['coins', 'Coins'],
  cart: ['cart', 'Cart'],
  bag: ['bag', 'Bag'],
  gift: ['gift', 'Gift'],
  tag: ['tag', 'Tag'],
  'ticket-perforated': ['ticket', 'Ticket'],
  trophy: ['trophy', 'Trophy'],
  mortarboard: ['school', 'School'],
  briefcase: ['briefcase', 'Briefcase'],
  'graph-up': ['graph', 'Graph'],
  recycle: ['recycle', 'Recycling'],
  'cup-hot': ['cup', 'Cup'],
  'box-seam': ['parcel', 'Parcel'],
  'hand-thumbs-up': ['thumb', 'Thumb up'],
  'emoji-smile': ['smile', 'Smile'],
  'info-circle': ['information', 'Information'],
  'question-circle': ['question', 'Question mark'],
  'exclamation-triangle': ['warning', 'Warning'],
  'plus-lg': ['plus', 'Plus'],
  'arrow-right': ['arrow', 'Arrow on'],
  'arrow-up-right': ['outside', 'Arrow out'],
  'play-circle': ['play', 'Play'],
  'list-check': ['list', 'List'],
};

const entries = Object.entries(ICONS).map(([drawing, [name, label]]) => {
  const svg = readFileSync(join(ROOT, `node_modules/bootstrap-icons/icons/${drawing}.svg`), 'utf8');
  const rest = svg.replace(/<\/?svg[^>]*>|<path (?:fill-rule="evenodd" )?d="[^"]*"\/>|\s/g, '');
  if (rest) throw new Error(`${drawing} is drawn with more than paths: ${rest}`);
  const path = [...svg.matchAll(/ d="([^"]*)"/g)].map(([, one]) => one).join('|');
  return `  ${JSON.stringify(name)}: { label: ${JSON.stringify(label)}, path: ${JSON.stringify(path)} },`;
});
const text = `/** The icons pages can have, on a field of 16 by 16, with a bar between their paths: made by tools/icons.mjs from Bootstrap Icons (MIT). */
export const ICONS = {
${entries.join('\n')}
} as const;
`;
const file = join(ROOT, 'core/src/icons/set.ts');
writeFileSync(file, await format(text, { ...(await resolveConfig(file)), filepath: file }));
