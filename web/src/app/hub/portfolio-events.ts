import { Injectable } from '@angular/core';
import type { Presence } from '@domatium/contracts';
import { Subject } from 'rxjs';

export interface PortfolioEvent {
  readonly kind: string;
  readonly pageIds?: readonly number[];
  readonly releaseId?: number;
  readonly by?: number | null;
  readonly work?: string;
  readonly share?: number;
  readonly presence?: Presence;
  /** Of a saved draft: its version, and when it was saved. */
  readonly version?: number;
  readonly at?: number;
  /** Whose text it took the place of. */
  readonly to?: number;
}

const KINDS = [
  ...['released', 'out', 'failed', 'draft', 'page', 'again', 'prepared', 'campaign', 'task', 'people'],
  ...['progress', 'presence', 'review', 'picture', 'stock', 'verified', 'trouble'],
];

/** What happens in the portfolio that is open, as the server tells it. */
@Injectable({ providedIn: 'root' })
export class PortfolioEvents {
  private source: EventSource | null = null;
  readonly all = new Subject<PortfolioEvent>();

  get isOpen(): boolean {
    return this.source !== null;
  }

  open(portfolioId: number): void {
    this.close();
    const source = (this.source = new EventSource(`/api/portfolios/${portfolioId}/events`));
    for (const kind of KINDS)
      source.addEventListener(kind, (message: MessageEvent<string>) =>
        this.all.next({ ...(JSON.parse(message.data) as PortfolioEvent), kind }),
      );
  }

  close(): void {
    this.source?.close();
    this.source = null;
  }
}
