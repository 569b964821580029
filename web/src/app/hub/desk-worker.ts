import type { FactoryProvider } from '@angular/core';
import { wrap } from 'comlink';
import type { Desk } from './desk';
import { DESK } from './desk-token';

/** The desk in a worker of its own. */
export const deskInWorker: FactoryProvider = {
  provide: DESK,
  useFactory: () => wrap<Desk>(new Worker(new URL('./register.worker', import.meta.url), { type: 'module' })),
};
