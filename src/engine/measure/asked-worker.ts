interface Waiting<Reply> {
  resolve: (reply: Reply) => void;
  reject: (error: Error) => void;
}

/** Asks a worker of the page, which answers each order by its id, with a problem in words where it can’t. It is started with the first. */
export class AskedWorker<Order extends { id: number }, Reply extends { id: number }> {
  private worker: Worker | null = null;
  private count = 0;
  private readonly waiting = new Map<number, Waiting<Reply>>();

  /** `problem` is what is said when the worker stops. */
  constructor(
    private readonly start: () => Worker,
    private readonly problem: string,
  ) {}

  /** Rejects when the worker stops. */
  ask(order: Order extends unknown ? Omit<Order, 'id'> : never): Promise<Reply> {
    this.worker ??= this.started();
    const id = ++this.count;
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { resolve, reject });
      this.worker?.postMessage({ ...order, id });
    });
  }

  close(): void {
    this.worker?.terminate();
    this.waiting.clear();
  }

  private started(): Worker {
    const worker = this.start();
    worker.onmessage = ({ data }: MessageEvent<Reply | { id: number; problem: string }>) => {
      const waiting = this.waiting.get(data.id);
      this.waiting.delete(data.id);
      if ('problem' in data) waiting?.reject(new Error(data.problem));
      else waiting?.resolve(data);
    };
    worker.onerror = () => {
      for (const { reject } of this.waiting.values()) reject(new Error(this.problem));
      this.waiting.clear();
      // The next order starts another.
      worker.terminate();
      this.worker = null;
    };
    return worker;
  }
}
