import { api } from '@domatium/contracts';
import type { Features } from '../../platform/http/feature.js';
import * as service from './service.js';

export function routes({ on }: Features): void {
  on(api.tasks, ({ context, portfolioId }) => service.tasks(context, portfolioId));
  on(api.newTask, ({ context, portfolioId, params, body }) =>
    service.newTask(context, portfolioId, params.pageId, body),
  );
  on(api.changeTask, ({ context, portfolioId, params, body }) =>
    service.changeTask(context, portfolioId, params.taskId, body as service.TaskChange),
  );
  on(api.removeTask, ({ context, portfolioId, params, body }) =>
    service.removeTask(context, portfolioId, params.taskId, body.version),
  );
}
