import { computed, inject, Injectable } from '@angular/core';
import {
  asTaken,
  documentFindingsOf,
  draftLinkFindingsOf,
  factFindingsOf,
  mendsOf,
  searchFindingsOf,
  sharedFindingsOf,
  TINY,
  withoutAccepted,
  type Finding,
} from '@domatium/core/checks';
import type { PageDocument } from '@domatium/core/document';
import type { PageId } from '@domatium/core/plan';
import { writeInstant, type Instant } from '@domatium/core/time';
import { AcceptedService } from '../hub/accepted.service';
import { RegisterService } from '../hub/register.service';
import { PicturesService } from '../pictures/pictures.service';
import { DraftService } from './draft.service';
import { PageWorld } from './page-world';

/** What is found in the draft that is open, while it is made. */
@Injectable()
export class DraftFindings {
  private readonly draft = inject(DraftService);
  private readonly world = inject(PageWorld);
  private readonly register = inject(RegisterService);
  private readonly pictures = inject(PicturesService);
  private readonly accepted = inject(AcceptedService);
  readonly all = computed<readonly Finding[]>(() => {
    const document = this.draft.document();
    if (!document) return [];
    const found = [
      ...documentFindingsOf(document, this.tiny()),
      ...draftLinkFindingsOf(document, this.draft.pageId() as PageId, this.world.known),
      ...this.shared(document),
      ...this.facts(document),
      ...searchFindingsOf({
        document,
        search: { role: this.world.place().role, said: this.world.said().robots.value },
      }),
    ];
    return withoutAccepted(asTaken(found, this.world.site()?.severities), this.accepted.of(this.draft.pageId()));
  });
  /** Pictures that are too small to be seen. */
  private readonly tiny = computed(
    () =>
      new Set(
        this.pictures.pictures().flatMap(({ id, width, height }) => (Math.max(width, height) <= TINY ? [id] : [])),
      ),
  );
  /** Blocks with findings, by the worse of them. */
  readonly marks = computed(() => {
    const marks = new Map<string, Finding['severity']>();
    for (const { place, severity } of this.all())
      if (place && 'blockId' in place && marks.get(place.blockId) !== 'blocks') marks.set(place.blockId, severity);
    return marks;
  });

  /** A page is not seen at a time of its own here: what is so now counts, and the release judges it again. */
  private shared(document: PageDocument): Finding[] {
    const shared = this.world.shared();
    if (!shared) return [];
    const from = this.register.now();
    const write = (at: Instant) => writeInstant(at, this.register.zone(), from);
    const during = { from, until: (from + 1) as Instant };
    return sharedFindingsOf({ document, during, shared, write });
  }

  /** Likewise. */
  private facts(document: PageDocument): Finding[] {
    const from = this.register.now();
    const during = { from, until: (from + 1) as Instant };
    const write = (at: Instant) => writeInstant(at, this.register.zone(), from);
    const shared = this.world.shared();
    return factFindingsOf({ document, during, write, ...(shared ? { shared } : {}) });
  }

  mends(finding: Finding) {
    const document = this.draft.document();
    return document ? mendsOf(document, finding) : [];
  }
}
