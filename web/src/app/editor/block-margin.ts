import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { blockTypes } from '@domatium/core/blocks';
import { blockOf, SETTABLE, type Finding } from '@domatium/core/checks';
import type { FieldValue } from '@domatium/core/document';
import { RegisterService } from '../hub/register.service';
import { AcceptFinding } from '../shared/accept-finding';
import { BlockAppearance } from './block-appearance';
import { BlockFields } from './block-fields';
import { ChosenBlocks } from './chosen-blocks';
import { DraftFindings } from './draft-findings';
import { DraftService } from './draft.service';
import { PieceLooks } from './piece-looks';
import { PageFields } from './page-fields';
import { PageFrameCard } from './page-frame';
import { PageSearch } from './page-search';
import { PageWorld } from './page-world';
import { say } from '@domatium/core/words/editor';

/** The margin: what the chosen block holds, or the page, and what is found in it. */
@Component({
  selector: 'dm-block-margin',
  imports: [AcceptFinding, BlockAppearance, BlockFields, PageFields, PageFrameCard, PageSearch, PieceLooks, RouterLink],
  templateUrl: './block-margin.html',
  styleUrl: './block-margin.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BlockMargin {
  protected readonly say = say;
  readonly move = output<{ readonly blockId: string; readonly by: 1 | -1 }>();
  protected readonly service = inject(RegisterService);
  protected readonly draft = inject(DraftService);
  protected readonly choice = inject(ChosenBlocks);
  protected readonly findings = inject(DraftFindings);
  protected readonly world = inject(PageWorld);
  protected readonly isNaming = signal(false);
  /** What is about to be let be. */
  protected readonly accepting = signal<Finding | null>(null);
  protected readonly blockOf = blockOf;
  protected readonly block = computed(
    () => this.draft.document()?.blocks.find(({ id }) => id === this.choice.main()) ?? null,
  );
  protected readonly definition = computed(() => {
    const block = this.block();
    return block ? blockTypes[block.type] : null;
  });
  /** The looks of a piece are chosen from what it holds. */
  protected readonly fields = computed(() => this.definition()?.fields.filter(({ key }) => key !== 'looks') ?? []);
  /** What is worth knowing of the chosen block, beyond its fields. */
  protected readonly notes = computed(() => {
    const block = this.block();
    return (block && blockTypes[block.type].notes?.(block.fields)) ?? [];
  });

  protected set({ field, value }: { field: string; value: FieldValue }): void {
    this.draft.edit({ kind: 'set', blockId: this.choice.main(), field, value });
  }

  /** The chosen blocks go into the stock, and are used from there, linked. */
  protected async keepPiece(name: string): Promise<void> {
    if (!name.trim()) return;
    if (await this.choice.keepPiece(name.trim(), this.service.portfolioId())) this.isNaming.set(false);
  }

  protected mayAccept = ({ code }: Finding): boolean => (SETTABLE as readonly string[]).includes(code);
  /** Findings are made anew with every letter: what and where tells them apart. */
  protected isAccepting(finding: Finding): boolean {
    const one = this.accepting();
    return one?.code === finding.code && blockOf(one) === blockOf(finding);
  }

  protected goTo(place: Finding['place']): void {
    if (place && 'blockId' in place) this.choice.choose(place.blockId);
    else if (place) this.choice.choose('page');
  }
}
