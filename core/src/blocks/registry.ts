import { BLOCK_TYPES, type BlockType } from '../fields/names.js';
import { buttonRow } from './button-row/index.js';
import { callToAction } from './call-to-action/index.js';
import { columns } from './columns/index.js';
import { comparison } from './comparison/index.js';
import { contact } from './contact/index.js';
import { countdown } from './countdown/index.js';
import { divider } from './divider/index.js';
import { frame } from './frame/index.js';
import { gallery } from './gallery/index.js';
import { linkList } from './link-list/index.js';
import { logos } from './logos/index.js';
import { map } from './map/index.js';
import { numbers } from './numbers/index.js';
import { offer } from './offer/index.js';
import { opening } from './opening/index.js';
import { ownHtml } from './own-html/index.js';
import { pageList } from './page-list/index.js';
import { people } from './people/index.js';
import { piece } from './piece/index.js';
import { picture } from './picture/index.js';
import { questions } from './questions/index.js';
import { quote } from './quote/index.js';
import { reasons } from './reasons/index.js';
import { steps } from './steps/index.js';
import { table } from './table/index.js';
import { text } from './text/index.js';
import { video } from './video/index.js';
import { voices } from './voices/index.js';

/** All block types. A new block is one folder, its name among `BLOCK_TYPES`, and one line here. */
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
} as const satisfies Record<BlockType, unknown>;

/** Those that are offered as they are; a piece is chosen by its name. */
export const OFFERED_TYPES = BLOCK_TYPES.filter((type) => type !== 'piece');
