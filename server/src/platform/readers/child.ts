import { TASKS, type TaskName } from './tasks.js';

/** Reads what people send, in a process of its own. One task at a time; it ends with whoever started it. */
process.on('disconnect', () => process.exit(0));
process.on('message', ({ name, asks }: { name: TaskName; asks: never }) => {
  const onShare = (share: number) => {
    process.send?.({ share });
    return Promise.resolve();
  };
  Promise.resolve()
    .then((): Promise<unknown> => TASKS[name](asks, onShare))
    .then(
      (gives) => process.send?.({ gives }),
      (error: unknown) =>
        process.send?.({
          error: error instanceof Error ? error.message : String(error),
          code: (error as { code?: unknown }).code ?? null,
        }),
    );
});
