/** Lets a service ask the server to begin again, where one runs. */
export class Restarting {
  private begin: (() => void) | null = null;

  /** How the server begins again. */
  by(begin: () => void): void {
    this.begin = begin;
  }

  /** Begins again a moment later, so that the answer is sent first; false where no server runs. */
  now(): boolean {
    if (!this.begin) return false;
    setTimeout(this.begin, AFTER_ANSWER_MS);
    return true;
  }
}

const AFTER_ANSWER_MS = 200;
