import { RateLimiterMemory, type RateLimiterRes } from 'rate-limiter-flexible';
import type { Endpoint } from '@domatium/contracts';
import { Refused } from '../errors.js';
import { say } from '@domatium/core/words/answers/http';

/** Calls in a minute. Whoever works by hand stays far below; programs that run away don't hold up the others. */
const A_MINUTE = {
  reads: 3_000,
  acts: 600,
  uploads: 120,
  /** What those may try who are not known yet, by address. */
  doors: 120,
  /** All who work on a portfolio together. */
  portfolio: 6_000,
} as const;
type Kind = keyof typeof A_MINUTE;

/** Counts calls by person, address and portfolio; refuses those beyond, and says when to come again. */
export class CallLimits {
  private readonly limiters: Readonly<Record<Kind, RateLimiterMemory>>;

  /** `factor` raises all limits alike, for many people behind one address and for measurements. */
  constructor(factor = 1) {
    const entries = Object.entries(A_MINUTE).map(([kind, points]) => [
      kind,
      new RateLimiterMemory({ points: Math.ceil(points * factor), duration: 60 }),
    ]);
    this.limiters = Object.fromEntries(entries) as Record<Kind, RateLimiterMemory>;
  }

  /** Counts one call of an endpoint. */
  async count(
    { method, who, takes }: Endpoint,
    by: { readonly account: number | null; readonly address: string; readonly portfolioId: number },
  ): Promise<void> {
    const isRead = method === 'GET';
    if (by.account === null) {
      if (who === 'anyone') await this.take(isRead ? 'reads' : 'doors', by.address);
      return;
    }
    await this.take(isRead ? 'reads' : takes === 'bytes' ? 'uploads' : 'acts', `person ${by.account}`);
    if (by.portfolioId) await this.take('portfolio', `portfolio ${by.portfolioId}`);
  }

  private async take(kind: Kind, key: string): Promise<void> {
    try {
      await this.limiters[kind].consume(key);
    } catch (refused) {
      const seconds = Math.max(1, Math.ceil((refused as RateLimiterRes).msBeforeNext / 1000));
      throw tooMany(seconds);
    }
  }
}

export const tooMany = (seconds: number, what = say.thatIsTooManyRequestsFor) =>
  new Refused('too-much-at-once', say.waitSecondThenGoOn(what, seconds, seconds === 1 ? '' : say.s), {
    retryAfter: seconds,
  });
