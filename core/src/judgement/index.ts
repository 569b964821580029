import type { PageId } from '../plan/index.js';
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
  private readonly pages = new Map<PageId, JudgedPage>();
  private readonly aiming = new Map<string, Set<PageId>>();
  private indices: { title: WordIndex; description: WordIndex; text: TextIndex } | null;

  /** `known`: where pages come a few at a time, all of them, so that it is known which words are rare. */
  constructor(known: readonly JudgedPage[] = []) {
    this.indices = known.length ? indicesOf(known) : null;
  }

  /** Takes all pages there are at the moment; gives those that have to be judged anew, with those that are no more. */
  fill(pages: readonly JudgedPage[]): Set<PageId> {
    const there = new Set(pages.map(({ id }) => id));
    return this.change(
      pages.filter(({ id, key }) => this.pages.get(id)?.key !== key),
      [...this.pages.keys()].filter((id) => !there.has(id)),
    );
  }

  /**
   * Takes pages that are others than before, and takes out those that are no more; gives all that have to be judged anew.
   * `asksBeside`: whether that is of interest, as it costs a look at all that says the same.
   */
  change(changed: readonly JudgedPage[], gone: readonly PageId[], asksBeside = true): Set<PageId> {
    const { title, description, text } = (this.indices ??= indicesOf(changed));
    const after = new Map(changed.map((page) => [page.id, page]));
    const moved = [...after.keys(), ...gone];
    const touched = new Set(moved);
    // Where every page is another there is nothing beside.
    const isAll = !asksBeside || [...this.pages.keys()].every((id) => touched.has(id));
    const beside = (isGoing: boolean) => {
      for (const id of isAll ? [] : moved) {
        for (const index of [title, description, text])
          for (const one of index.touchedBy(id, isGoing)) touched.add(one);
        for (const phrase of this.phrasesOf(id)) {
          const those = this.aiming.get(phrase);
          if (those && those.size <= MOST + 2) for (const one of those) touched.add(one);
        }
      }
    };
    beside(true);
    for (const id of moved) {
      for (const phrase of this.phrasesOf(id)) this.aiming.get(phrase)?.delete(id);
      const page = after.get(id);
      if (page) this.pages.set(id, page);
      else this.pages.delete(id);
      for (const phrase of this.phrasesOf(id)) this.aiming.set(phrase, (this.aiming.get(phrase) ?? new Set()).add(id));
      const sight = page?.isShown ? page.sight : null;
      title.put(id, sight?.title ?? null);
      description.put(id, sight?.description ?? null);
      text.put(id, sight?.text ?? null);
    }
    beside(false);
    return touched;
  }

  /** What a page aims at, where search engines are asked to show it. */
  private phrasesOf(id: PageId): Iterable<string> {
    const page = this.pages.get(id);
    return page?.isShown ? page.sight.phrases.keys() : [];
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

  /** Pages that could be shared with a picture that is another than it was. */
  showing(isOther: (pictureId: number) => boolean): PageId[] {
    const known = new Map<number, boolean>();
    const changed = (id: number) => {
      if (!known.has(id)) known.set(id, isOther(id));
      return known.get(id) === true;
    };
    return [...this.pages.values()].flatMap(({ id, sight, sitePicture }) =>
      sight.pictures.some(changed) || (sitePicture !== null && changed(sitePicture)) ? [id] : [],
    );
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

const indicesOf = (pages: readonly JudgedPage[]) => ({
  title: new WordIndex(pages.map(({ sight }) => sight.title)),
  description: new WordIndex(pages.map(({ sight }) => sight.description)),
  text: new TextIndex(),
});
