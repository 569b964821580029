/** Identities of rows, whole positive numbers. Branded, so that one kind is never passed for another. */
type Id<Kind extends string> = number & { readonly __id: Kind };

export type PortfolioId = Id<'portfolio'>;
export type AccountId = Id<'account'>;
export type HostId = Id<'host'>;
export type SiteId = Id<'site'>;
export type PageId = Id<'page'>;
export type RevisionId = Id<'revision'>;
export type ReleaseId = Id<'release'>;
export type PictureId = Id<'picture'>;
/** One sequence numbers all rows of plans: placements, periods, answers, claims. */
export type PlanRowId = Id<'plan-row'>;

/** Hands out the identities of new plan rows: from a sequence when it counts, from anywhere in a preview. */
export type IdSource = () => PlanRowId;

/** Identities for a preview, that no stored row has. */
export function previewIds(): IdSource {
  let last = 9e15;
  return () => ++last as PlanRowId;
}
