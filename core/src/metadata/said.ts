import type { HeadElement, Robots } from '../fields/types.js';

/** What is said of a page further up, as it reaches the page: empty where nobody says anything. */
export interface SaidOfPage {
  /** What stands before and after its title. */
  readonly titleBefore: string;
  readonly titleAfter: string;
  /** For a page without a description of its own. */
  readonly description: string;
  /** The name of the site where its pages are shared. */
  readonly siteName: string;
  /** Who is behind the pages. */
  readonly organization: string;
  readonly robots: Robots | null;
  readonly elements: readonly HeadElement[];
}

export const NOTHING_SAID: SaidOfPage = {
  ...{ titleBefore: '', titleAfter: '', description: '', siteName: '', organization: '' },
  ...{ robots: null, elements: [] },
};

/** A title with what stands before and after it, one space between each. */
export const wholeTitle = (
  title: string,
  { titleBefore, titleAfter }: Pick<SaidOfPage, 'titleBefore' | 'titleAfter'>,
): string =>
  [titleBefore, title, titleAfter]
    .map((text) => text.trim())
    .filter(Boolean)
    .join(' ');
