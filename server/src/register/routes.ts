import { api } from '@domatium/contracts';
import type { Features } from '../http/app.js';
import { register } from './service.js';

export function routes({ on }: Features): void {
  on(api.register, ({ context, portfolioId }) => register(context, portfolioId));
}
