import type { JobView } from '@fuller/contracts';

/** Somebody with an account who works through the API as a browser does, with a cookie. */
export class Person {
  private cookie = '';
  private readonly revisions = new Map<string, number>();
  private readonly left = new AbortController();

  constructor(
    private readonly url: string,
    private readonly client: string,
  ) {}

  /** Makes an account and signs in with it, with a password of its owner's choosing. */
  static async withAccount(director: Person, url: string, n: number): Promise<Person> {
    const [name, first, password] = [`Person ${n}`, `given to person ${n}`, `chosen by person ${n}`];
    const roles = [{ stationId: null, role: 'director', showIds: [] }];
    await director.ask('POST', 'people', { name, password: first, roles });
    const person = new Person(url, `bench-${n}`);
    await person.ask('POST', 'session', { name, password: first });
    await person.ask('PUT', 'session/password', { old: first, password });
    return person;
  }

  signInDemo(role: string): Promise<unknown> {
    return this.ask('POST', 'session/demo', { role });
  }

  async ask<T = unknown>(method: string, where: string, body?: unknown, alsoFine: readonly number[] = []): Promise<T> {
    const answer = await this.send(method, where, body);
    const text = await answer.text();
    if (!answer.ok && !alsoFine.includes(answer.status))
      throw new Error(`${method} ${where}: ${answer.status} ${text.slice(0, 200)}`);
    return JSON.parse(text) as T;
  }

  async statusOf(method: string, where: string, body?: unknown): Promise<number> {
    const answer = await this.send(method, where, body);
    await answer.text();
    return answer.status;
  }

  /** Follows a log by the event stream, as a browser that has it open. */
  async follow(stationId: string, date: string, revision: number): Promise<void> {
    this.revisions.set(`${stationId} ${date}`, revision);
    const answer = await fetch(`${this.url}/api/events`, {
      headers: { cookie: this.cookie },
      signal: this.left.signal,
    });
    void this.listen(answer.body!).catch(() => undefined);
  }

  revisionOf(stationId: string, date: string): number {
    return this.revisions.get(`${stationId} ${date}`) ?? 0;
  }

  leave(): void {
    this.left.abort();
  }

  private async listen(body: ReadableStream<Uint8Array>): Promise<void> {
    let text = '';
    const decoder = new TextDecoder();
    const reader = body.getReader();
    for (let read = await reader.read(); !read.done; read = await reader.read()) {
      text += decoder.decode(read.value, { stream: true });
      const lines = text.split('\n');
      text = lines.pop() ?? '';
      for (const line of lines.filter((one) => one.startsWith('data:'))) {
        const event = JSON.parse(line.slice(5)) as { type: string; stationId: string; date: string; revision: number };
        if (event.type === 'log') this.revisions.set(`${event.stationId} ${event.date}`, event.revision);
      }
    }
  }

  /** Begins a job and waits for its end. */
  async job(where: string, body: unknown): Promise<void> {
    const { id } = await this.ask<JobView>('POST', where, body);
    for (;;) {
      const job = (await this.ask<JobView[]>('GET', 'jobs')).find((one) => one.id === id)!;
      if (job.state === 'done') return;
      if (job.state !== 'running') throw new Error(`${job.label}: ${job.message}`);
      await new Promise((resolve) => setTimeout(resolve, 200));
    }
  }

  private async send(method: string, where: string, body?: unknown): Promise<Response> {
    const answer = await again(() =>
      fetch(`${this.url}/api/${where}`, {
        method,
        headers: {
          'x-client': this.client,
          cookie: this.cookie,
          ...(body === undefined ? {} : { 'content-type': 'application/json' }),
        },
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      }),
    );
    // So many sign in from one address that they have to take turns.
    if (answer.status === 429 && where.startsWith('session')) {
      await answer.text();
      await new Promise((resolve) => setTimeout(resolve, 1000));
      return this.send(method, where, body);
    }
    const given = answer.headers.get('set-cookie');
    if (given) this.cookie = given.split(';')[0]!;
    return answer;
  }
}

/** As a browser does where the server has closed a connection that was kept open, before anything came over it. */
async function again<T>(ask: () => Promise<T>): Promise<T> {
  try {
    return await ask();
  } catch (error) {
    const { cause } = error as { cause?: { code?: string } };
    if (cause?.code !== 'ECONNRESET' && cause?.code !== 'UND_ERR_SOCKET') throw error;
    return ask();
  }
}
