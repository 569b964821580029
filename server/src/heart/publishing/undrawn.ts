import type { PortfolioId } from '@domatium/core/plan';
import { queryOfKnex, swallowed, tellTroubles } from '@domatium/storage';
import { say } from '@domatium/core/words/answers/publishing';
import { rowsOf, type Db } from '../../platform/database/context.js';

const at = (portfolioId: PortfolioId, place: string) => `frame ${portfolioId} ${place}`;

/** Frames that can't be drawn: visitors keep what was there before, whatever else is published, and it is said. */
export class Undrawn {
  private readonly found = new Map<string, { readonly host: string; readonly why: string }>();

  /** What work gives that draws the frame of a place, `null` where it throws. */
  unless<T>(place: string, host: string, work: () => T): T | null {
    try {
      return work();
    } catch (error) {
      swallowed('drawing a frame')(error);
      this.found.set(place, { host, why: error instanceof Error ? error.message : String(error) });
      return null;
    }
  }

  has(place: string): boolean {
    return this.found.has(place);
  }

  /** Says what can't be drawn of all that was asked for, and no more what can be again. */
  async tell(trx: Db, portfolioId: PortfolioId, asked: readonly string[]): Promise<void> {
    const query = queryOfKnex(trx);
    const said = await rowsOf<{ place: string }>(
      trx,
      "SELECT place FROM trouble WHERE kind = 'publishing' AND place = ANY(?)",
      [asked.map((place) => at(portfolioId, place))],
    );
    const known = new Set(said.map(({ place }) => place));
    for (const place of asked) {
      const found = this.found.get(place);
      if (!found && !known.has(at(portfolioId, place))) continue;
      const words = found && say.whatStandsAroundCantBeDrawn(found.host, found.why.slice(0, 200));
      await tellTroubles(query, at(portfolioId, place), words ? [{ kind: 'publishing', words, portfolioId }] : []);
    }
  }
}
