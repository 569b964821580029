import { computed, inject, Injectable } from '@angular/core';
import { documentFindingsOf, draftLinkFindingsOf, mendsOf, type Finding } from '@domatium/core/checks';
import type { PageId } from '@domatium/core/plan';
import { DraftService } from './draft.service';
import { PageWorld } from './page-world';

/** What is found in the draft that is open, while it is made. */
@Injectable()
export class DraftFindings {
  private readonly draft = inject(DraftService);
  private readonly world = inject(PageWorld);
  readonly all = computed<readonly Finding[]>(() => {
    const document = this.draft.document();
    return document
      ? [
          ...documentFindingsOf(document),
          ...draftLinkFindingsOf(document, this.draft.pageId() as PageId, this.world.known),
        ]
      : [];
  });
  /** Blocks with findings, by the worse of them. */
  readonly marks = computed(() => {
    const marks = new Map<string, Finding['severity']>();
    for (const { place, severity } of this.all())
      if (place && 'blockId' in place && marks.get(place.blockId) !== 'blocks') marks.set(place.blockId, severity);
    return marks;
  });

  mends(finding: Finding) {
    const document = this.draft.document();
    return document ? mendsOf(document, finding) : [];
  }
}
