import type { Type } from '@angular/core';
import type { Panel } from '../hub/place.service';

/** What opens beside the list. */
export interface PanelEntry {
  readonly load: () => Promise<Type<unknown>>;
  /** What it is of, given to its input of that name; where there is none it does not open. */
  readonly of?: 'pageId' | 'campaignId' | 'siteId';
  /** It shows the past or what is planned, and nothing of now. */
  readonly isOfMoment?: boolean;
}

/** Every panel, by its name in the address bar. A new one is one line here and its name among `PANELS`. */
export const PANEL_TABLE: Readonly<Record<Panel, PanelEntry>> = {
  new: { load: () => import('../pages/new-page-sheet').then((m) => m.NewPageSheet) },
  release: { load: () => import('../releases/release-sheet').then((m) => m.ReleaseSheet), of: 'pageId' },
  'take-off': { load: () => import('../releases/take-off-sheet').then((m) => m.TakeOffSheet), of: 'pageId' },
  period: { load: () => import('../releases/period-sheet').then((m) => m.PeriodSheet), of: 'pageId' },
  move: { load: () => import('../releases/move-sheet').then((m) => m.MoveSheet), of: 'pageId' },
  history: { load: () => import('../pages/history-sheet').then((m) => m.HistorySheet), of: 'pageId' },
  seen: { load: () => import('../pages/seen-view').then((m) => m.SeenPage), of: 'pageId', isOfMoment: true },
  template: { load: () => import('../pages/template-sheet').then((m) => m.TemplateSheet), of: 'pageId' },
  templates: { load: () => import('../pages/templates-sheet').then((m) => m.TemplatesSheet) },
  difference: { load: () => import('../register/difference-sheet').then((m) => m.DifferenceSheet) },
  arrange: { load: () => import('../many/arrange-sheet').then((m) => m.ArrangeSheet) },
  place: { load: () => import('../many/place-sheet').then((m) => m.PlaceSheet) },
  fill: { load: () => import('../many/fill-sheet').then((m) => m.FillSheet) },
  settings: { load: () => import('../pages/settings-sheet').then((m) => m.SettingsSheet), of: 'pageId' },
  fix: { load: () => import('../fixing/fix-sheet').then((m) => m.FixSheet) },
  checks: { load: () => import('../fixing/checks-sheet').then((m) => m.ChecksSheet) },
  delete: { load: () => import('../many/delete-sheet').then((m) => m.DeleteSheet) },
  prepared: { load: () => import('../prepared/prepared-sheet').then((m) => m.PreparedSheet) },
  copy: { load: () => import('../copies/copy-sheet').then((m) => m.CopySheet) },
  campaign: { load: () => import('../campaigns/campaign-sheet').then((m) => m.CampaignSheet), of: 'campaignId' },
  'new-campaign': { load: () => import('../campaigns/campaign-sheet').then((m) => m.NewCampaignSheet) },
  again: { load: () => import('../campaigns/again-sheet').then((m) => m.AgainSheet), of: 'campaignId' },
  todo: { load: () => import('../tasks/todo-sheet').then((m) => m.TodoSheet) },
  feeds: { load: () => import('../views/feeds-sheet').then((m) => m.FeedsSheet) },
  import: { load: () => import('../imports/import-sheet').then((m) => m.ImportSheet) },
  share: { load: () => import('../reviews/share-sheet').then((m) => m.ShareSheet) },
  portfolio: { load: () => import('../people/portfolio-sheet').then((m) => m.PortfolioSheet) },
  site: { load: () => import('../people/site-sheet').then((m) => m.SiteSheet), of: 'siteId' },
  everywhere: { load: () => import('../everywhere/everywhere-sheet').then((m) => m.EverywhereSheet) },
  record: { load: () => import('../record/record-sheet').then((m) => m.RecordSheet) },
  people: { load: () => import('../people/people-sheet').then((m) => m.PeopleSheet) },
  account: { load: () => import('../session/account-sheet').then((m) => m.AccountSheet) },
  notice: { load: () => import('../stock/notice-sheet').then((m) => m.NoticeSheet) },
  'new-site': { load: () => import('../people/new-site-sheet').then((m) => m.NewSiteSheet) },
  'copy-site': { load: () => import('../people/new-site-sheet').then((m) => m.NewSiteSheet), of: 'siteId' },
  'new-portfolio': { load: () => import('../people/new-site-sheet').then((m) => m.NewPortfolioSheet) },
};
