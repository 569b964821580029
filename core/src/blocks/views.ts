import type { BlockType } from '../fields/names.js';
import type { BlockView } from './definition.js';
import { brandView } from './brand/view.js';
import { buttonRowView } from './button-row/view.js';
import { callToActionView } from './call-to-action/view.js';
import { columnsView } from './columns/view.js';
import { comparisonView } from './comparison/view.js';
import { contactView } from './contact/view.js';
import { countdownView } from './countdown/view.js';
import { dividerView } from './divider/view.js';
import { frameView } from './frame/view.js';
import { galleryView } from './gallery/view.js';
import { legalLineView } from './legal-line/view.js';
import { linkColumnsView } from './link-columns/view.js';
import { linkListView } from './link-list/view.js';
import { logosView } from './logos/view.js';
import { mapView } from './map/view.js';
import { menuView } from './menu/view.js';
import { neighboursView } from './neighbours/view.js';
import { numbersView } from './numbers/view.js';
import { offerView } from './offer/view.js';
import { openingView } from './opening/view.js';
import { ownHtmlView } from './own-html/view.js';
import { pageListView } from './page-list/view.js';
import { peopleView } from './people/view.js';
import { pieceView } from './piece/view.js';
import { pictureView } from './picture/view.js';
import { profilesView } from './profiles/view.js';
import { questionsView } from './questions/view.js';
import { quoteView } from './quote/view.js';
import { reasonsView } from './reasons/view.js';
import { siteMenuView } from './site-menu/view.js';
import { stepsView } from './steps/view.js';
import { tableView } from './table/view.js';
import { textView } from './text/view.js';
import { videoView } from './video/view.js';
import { voicesView } from './voices/view.js';
import { wayUpView } from './way-up/view.js';

/** What every type of block looks like. */
export const blockViews: Readonly<Record<BlockType, BlockView>> = {
  opening: openingView,
  countdown: countdownView,
  text: textView,
  columns: columnsView,
  reasons: reasonsView,
  steps: stepsView,
  comparison: comparisonView,
  offer: offerView,
  picture: pictureView,
  gallery: galleryView,
  video: videoView,
  ownHtml: ownHtmlView,
  frame: frameView,
  table: tableView,
  quote: quoteView,
  voices: voicesView,
  numbers: numbersView,
  people: peopleView,
  logos: logosView,
  questions: questionsView,
  map: mapView,
  callToAction: callToActionView,
  linkList: linkListView,
  pageList: pageListView,
  buttonRow: buttonRowView,
  contact: contactView,
  divider: dividerView,
  piece: pieceView,
  brand: brandView,
  menu: menuView,
  legalLine: legalLineView,
  siteMenu: siteMenuView,
  wayUp: wayUpView,
  neighbours: neighboursView,
  linkColumns: linkColumnsView,
  profiles: profilesView,
};
