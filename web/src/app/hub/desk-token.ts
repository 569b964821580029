import { InjectionToken } from '@angular/core';
import type { Remote } from 'comlink';
import type { Desk } from './desk';

/** What may be asked of the desk, from outside of its worker. */
export type DeskCalls = Pick<Remote<Desk>, Exclude<keyof Desk, symbol>>;

/** The desk: the application provides it in a worker, tests as they need it. */
export const DESK = new InjectionToken<DeskCalls>('desk');
