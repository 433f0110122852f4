/** A reader that asks for nothing this long has gone without saying so, in ms. */
const STALLED_MS = Number(process.env.COPPER_STALL_MS || 120_000);

/**
 * A body that is made as it is read: nothing begins before the first piece is asked for, and it ends when the reader goes or
 * stalls. `begin` is called at most once, and what it gives is returned to, so that it can clean up; `onEnd` is called once,
 * whether it began or not.
 */
export function lazyStream(
  begin: () => AsyncGenerator<Uint8Array, void, undefined>,
  signal: AbortSignal,
  onEnd = () => {},
  stalledMs = STALLED_MS,
): ReadableStream<Uint8Array> {
  let pieces: AsyncGenerator<Uint8Array, void, undefined> | null = null;
  let timer: NodeJS.Timeout | undefined;
  let ended = false;
  const end = async () => {
    if (ended) return;
    ended = true;
    clearTimeout(timer);
    try {
      await pieces?.return(undefined);
    } finally {
      onEnd();
    }
  };
  return new ReadableStream<Uint8Array>(
    {
      start(controller) {
        if (signal.aborted) return void end();
        signal.addEventListener('abort', () => void end(), { once: true });
        wait(controller);
      },
      async pull(controller) {
        if (ended) return controller.error(new Error('The reader has gone.'));
        clearTimeout(timer);
        try {
          pieces ??= begin();
          const { done, value } = await pieces.next();
          if (!done) {
            controller.enqueue(value);
            return wait(controller);
          }
          controller.close();
        } catch (error) {
          controller.error(error);
        }
        await end();
      },
      cancel: end,
    },
    { highWaterMark: 0 },
  );

  function wait(controller: ReadableStreamDefaultController<Uint8Array>): void {
    if (ended) return;
    timer = setTimeout(() => {
      controller.error(new Error('The reader stalled.'));
      void end();
    }, stalledMs);
    timer.unref();
  }
}
