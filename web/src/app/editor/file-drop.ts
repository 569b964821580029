import { pictureFieldOf, spotAt, type PageDocument, type Spot } from '@domatium/core/document';
import { BLOCK, type CanvasPlaces } from './canvas-places';

/** Files dropped on a picture field of a block, or before the block that is at `at` now. */
export interface DroppedPictures {
  readonly files: readonly File[];
  readonly blockId: string | null;
  readonly field: string | null;
  readonly at: number;
}

/** The canvas under files that are dragged over it. */
export interface DropGround {
  readonly places: CanvasPlaces;
  document(): PageDocument;
  mayEdit(): boolean;
  /** Shows the seam at this spot, or none. */
  show(spot: Spot | null): void;
  dropped(pictures: DroppedPictures): void;
}

/** Pictures from outside, dragged over the page. */
export class FileDrop {
  constructor(private readonly ground: DropGround) {}

  listen(page: Document): void {
    page.addEventListener('dragover', (event) => this.over(event));
    page.addEventListener('dragleave', () => this.mark(null));
    page.addEventListener('drop', (event) => this.drop(event));
  }

  /** Where files over the page would go: into a picture field of the block under them, or before it. */
  private placeOf(event: DragEvent): Omit<DroppedPictures, 'files'> {
    const section = (event.target as Element).closest<HTMLElement>(BLOCK);
    const block = this.ground.document().blocks.find(({ id }) => id === section?.id.slice(2));
    const sections = this.ground.places.sections();
    const index = sections.findIndex((one) => one === section);
    return {
      blockId: block?.id ?? null,
      field: block ? pictureFieldOf(block) : null,
      at: index < 0 ? sections.length : index,
    };
  }

  private over(event: DragEvent): void {
    if (!this.ground.mayEdit() || !event.dataTransfer?.types.includes('Files')) return;
    event.preventDefault();
    const { blockId, field, at } = this.placeOf(event);
    if (field) this.mark(blockId);
    else this.ground.show(spotAt(this.ground.document().blocks, at));
  }

  private drop(event: DragEvent): void {
    event.preventDefault();
    const files = [...(event.dataTransfer?.files ?? [])];
    this.mark(null);
    this.ground.show(null);
    if (this.ground.mayEdit() && files.length) this.ground.dropped({ files, ...this.placeOf(event) });
  }

  private mark(blockId: string | null): void {
    for (const section of this.ground.places.sections())
      section.classList.toggle('takes-picture', section.id === `b-${blockId}`);
    if (blockId) this.ground.show(null);
  }
}
