import type { FieldDefinition } from '../fields/fields.js';
import { BLOCK_TYPES, type BlockType } from '../fields/names.js';
import { APPEARANCE } from './appearance.js';
import { brand } from './brand/schema.js';
import { buttonRow } from './button-row/schema.js';
import { callToAction } from './call-to-action/schema.js';
import { columns } from './columns/schema.js';
import { comparison } from './comparison/schema.js';
import { contact } from './contact/schema.js';
import { countdown } from './countdown/schema.js';
import { divider } from './divider/schema.js';
import { frame } from './frame/schema.js';
import { gallery } from './gallery/schema.js';
import { legalLine } from './legal-line/schema.js';
import { linkColumns } from './link-columns/schema.js';
import { linkList } from './link-list/schema.js';
import { logos } from './logos/schema.js';
import { map } from './map/schema.js';
import { menu } from './menu/schema.js';
import { neighbours } from './neighbours/schema.js';
import { numbers } from './numbers/schema.js';
import { offer } from './offer/schema.js';
import { opening } from './opening/schema.js';
import { ownHtml } from './own-html/schema.js';
import { pageList } from './page-list/schema.js';
import { people } from './people/schema.js';
import { piece } from './piece/schema.js';
import { picture } from './picture/schema.js';
import { profiles } from './profiles/schema.js';
import { questions } from './questions/schema.js';
import { quote } from './quote/schema.js';
import { reasons } from './reasons/schema.js';
import { siteMenu } from './site-menu/schema.js';
import { steps } from './steps/schema.js';
import { table } from './table/schema.js';
import { text } from './text/schema.js';
import { video } from './video/schema.js';
import { voices } from './voices/schema.js';
import { wayUp } from './way-up/schema.js';

/** All block types: what they hold and say. A new block is one folder, its name among `BLOCK_TYPES`, one line here and one in `views.ts`. */
export const blockTypes = {
  opening,
  countdown,
  text,
  columns,
  reasons,
  steps,
  comparison,
  offer,
  picture,
  gallery,
  video,
  ownHtml,
  frame,
  table,
  quote,
  voices,
  numbers,
  people,
  logos,
  questions,
  map,
  callToAction,
  linkList,
  pageList,
  buttonRow,
  contact,
  divider,
  piece,
  brand,
  menu,
  legalLine,
  siteMenu,
  wayUp,
  neighbours,
  linkColumns,
  profiles,
} as const satisfies Record<BlockType, unknown>;

const ALL_FIELDS = new Map<BlockType, readonly FieldDefinition[]>(
  BLOCK_TYPES.map((type) => [type, [...blockTypes[type].fields, ...APPEARANCE]]),
);

/** All fields of a block of a type: its own, and those that say how it stands on its page. */
export const fieldsOf = (type: BlockType): readonly FieldDefinition[] => ALL_FIELDS.get(type) ?? APPEARANCE;

/** Those that stand in headers, footers and bands only. */
const FRAME_TYPES: readonly BlockType[] = ['brand', 'menu', 'linkColumns', 'profiles', 'legalLine'];

/** Those that are offered as they are; a piece is chosen by its name. */
export const OFFERED_TYPES = BLOCK_TYPES.filter((type) => type !== 'piece' && !FRAME_TYPES.includes(type));

/** Those that are offered in headers, footers and bands. */
export const PART_TYPES: readonly BlockType[] = [
  ...FRAME_TYPES,
  ...([
    'siteMenu',
    'wayUp',
    'buttonRow',
    'text',
    'contact',
    'linkList',
    'countdown',
    'logos',
    'ownHtml',
    'divider',
  ] as const),
];
