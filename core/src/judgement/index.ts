import { groupBy, type PageId } from '../plan/index.js';
import type { Instant } from '../time/index.js';
import type { Finding } from '../checks/finding.js';
import { aims } from './aims.js';
import { dates } from './dates.js';
import { ends } from './ends.js';
import { language } from './language.js';
import { MOST, same, TextIndex, WordIndex } from './same.js';
import { share, type PictureSize } from './share.js';
import type { JudgedPage } from './sight.js';

export { SHARED_AT_LEAST, type PictureSize } from './share.js';
export { sightOf, type JudgedPage, type Sight } from './sight.js';

/** What pages are judged in beside themselves. */
export interface JudgedWorld {
  readonly at: Instant;
  readonly sizeOf: (pictureId: number) => PictureSize | undefined;
  readonly write: (at: Instant) => string;
}

/**
 * All pages of a portfolio as they are at a moment. It is filled again and again, and only what changed, with all that
 * says the same as it does or did, is to be judged anew.
 */
export class Judgement {
  private pages: ReadonlyMap<PageId, JudgedPage> = new Map();
  private aiming: ReadonlyMap<string, ReadonlySet<PageId>> = new Map();
  private indices: { title: WordIndex; description: WordIndex; text: TextIndex } | null = null;

  /** Takes all pages there are at the moment; gives those that have to be judged anew, with those that are no more. */
  fill(pages: readonly JudgedPage[]): Set<PageId> {
    const now = new Map(pages.map((page) => [page.id, page]));
    const changed = pages.filter(({ id, key }) => this.pages.get(id)?.key !== key).map(({ id }) => id);
    const gone = [...this.pages.keys()].filter((id) => !now.has(id));
    const moved = [...changed, ...gone];
    const { title, description, text } = (this.indices ??= {
      title: new WordIndex(pages.map(({ sight }) => sight.title)),
      description: new WordIndex(pages.map(({ sight }) => sight.description)),
      text: new TextIndex(),
    });
    const touched = new Set(moved);
    const isAll = changed.length === pages.length;
    const neighbours = (known: ReadonlyMap<PageId, JudgedPage>, isGoing: boolean) => {
      // Where every page is another there is nothing beside.
      for (const id of isAll ? [] : moved) {
        for (const index of [title, description, text])
          for (const one of index.touchedBy(id, isGoing)) touched.add(one);
        for (const phrase of known.get(id)?.sight.phrases.keys() ?? []) {
          const those = this.aiming.get(phrase);
          if (those && those.size <= MOST + 2) for (const one of those) touched.add(one);
        }
      }
    };
    neighbours(this.pages, true);
    for (const id of moved) {
      const page = now.get(id);
      const sight = page?.isShown ? page.sight : null;
      title.put(id, sight?.title ?? null);
      description.put(id, sight?.description ?? null);
      text.put(id, sight?.text ?? null);
    }
    this.pages = now;
    const aimed = pages.flatMap(({ id, sight, isShown }) =>
      isShown ? [...sight.phrases.keys()].map((phrase) => ({ phrase, id })) : [],
    );
    this.aiming = new Map(
      [...groupBy(aimed, ({ phrase }) => phrase)].map(([phrase, those]) => [
        phrase,
        new Set(those.map(({ id }) => id)),
      ]),
    );
    neighbours(now, false);
    return touched;
  }

  /** Pages on which something comes or goes with time alone between two moments. */
  passing(from: Instant, to: Instant, world: Omit<JudgedWorld, 'at'>): Set<PageId> {
    const passed = new Set<PageId>();
    for (const page of this.pages.values()) {
      const codes = [from, to].map((at) =>
        [...dates(page, at), ...ends(page, at, world.write)].map(({ code, message }) => `${code} ${message}`).join(),
      );
      if (codes[0] !== codes[1]) passed.add(page.id);
    }
    return passed;
  }

  /** What is found on a page among all others; nothing of one that is not there. */
  findingsOf(id: PageId, { at, sizeOf, write }: JudgedWorld): Finding[] {
    const page = this.pages.get(id);
    if (!page) return [];
    const { title = null, description = null, text = null } = this.indices ?? {};
    const nameOf = (one: PageId) => this.pages.get(one)?.name ?? '';
    return [
      ...same(
        { title: title?.of(id) ?? null, description: description?.of(id) ?? null, text: text?.of(id) ?? null },
        nameOf,
      ),
      ...(page.isShown ? aims(page, (phrase) => this.aiming.get(phrase) ?? new Set(), nameOf) : []),
      ...dates(page, at),
      ...ends(page, at, write),
      ...language(page),
      ...(page.isShown ? share(page, sizeOf) : []),
    ];
  }
}
