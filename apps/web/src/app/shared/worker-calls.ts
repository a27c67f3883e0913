/** What a worker answers: the number of the question with a value, or why there is none. */
export interface WorkerAnswer {
  readonly id: number;
  readonly value?: unknown;
  readonly error?: string;
}

/** Questions to a worker and their answers, matched by number. */
export class WorkerCalls<Question extends object> {
  private readonly waiting = new Map<number, { resolve: (value: unknown) => void; reject: (error: Error) => void }>();
  private asked = 0;

  constructor(private readonly worker: Worker) {
    worker.addEventListener('message', ({ data: { id, value, error } }: MessageEvent<WorkerAnswer>) => {
      const waiting = this.waiting.get(id);
      this.waiting.delete(id);
      if (error === undefined) waiting?.resolve(value);
      else waiting?.reject(new Error(error));
    });
  }

  ask<T>(question: Question): Promise<T> {
    return new Promise<T>((resolve, reject) => {
      const id = ++this.asked;
      this.waiting.set(id, { resolve: resolve as (value: unknown) => void, reject });
      this.worker.postMessage({ ...question, id });
    });
  }

  end(): void {
    this.worker.terminate();
  }
}

/** Answers questions in a worker, one after the other. */
export function answerQuestions<Question extends object>(answer: (question: Question) => unknown): void {
  addEventListener('message', ({ data: question }: MessageEvent<Question & { readonly id: number }>) => {
    const { id } = question;
    try {
      postMessage({ id, value: answer(question) } satisfies WorkerAnswer);
    } catch (error) {
      postMessage({ id, error: error instanceof Error ? error.message : String(error) } satisfies WorkerAnswer);
    }
  });
}
