/** Stands for a web worker: answers each question in this thread, as the worker's own file would. */
export function workInProcess<Question extends object>(answerer: () => (question: Question) => unknown): void {
  class InProcessWorker extends EventTarget {
    private readonly answer = answerer();

    postMessage({ id, ...question }: Question & { readonly id: number }): void {
      let data: object;
      try {
        data = { id, value: this.answer(question as unknown as Question) };
      } catch (error) {
        data = { id, error: String(error) };
      }
      queueMicrotask(() => this.dispatchEvent(new MessageEvent('message', { data })));
    }

    terminate(): void {
      this.postMessage = () => undefined;
    }
  }
  Object.assign(globalThis, { Worker: InProcessWorker });
}
