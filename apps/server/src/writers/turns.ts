/** The turns of a thread among those who write: asked for, waited for, and given back. */
export class Turns {
  private waiting: (() => void)[] = [];

  constructor(
    private readonly want: () => void,
    private readonly giveBack: () => void,
  ) {}

  /** The turn that was asked for first has come. */
  begin(): void {
    this.waiting.shift()?.();
  }

  async runExclusive<T>(work: () => Promise<T>): Promise<T> {
    const begun = new Promise<void>((resolve) => this.waiting.push(resolve));
    this.want();
    await begun;
    try {
      return await work();
    } finally {
      this.giveBack();
    }
  }
}
