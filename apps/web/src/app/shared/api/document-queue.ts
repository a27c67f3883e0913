/** A change of a document that names the revision it was made from. */
export interface Revised {
  readonly revision: number;
}

export function hasRevision(body: unknown): body is Revised {
  return typeof body === 'object' && body !== null && typeof (body as Partial<Revised>).revision === 'number';
}

/**
 * One change of a document after another. Each is sent with the revision the one before it left, so that quick changes
 * by one person are not taken for two people's.
 */
export class DocumentQueue {
  private readonly tails = new Map<string, Promise<unknown>>();
  /** The newest revision of a document that own changes have made. */
  private readonly revisions = new Map<string, number>();

  save<T, B extends Revised>(document: string, body: B, send: (body: B) => Promise<T>): Promise<T> {
    const before = this.tails.get(document) ?? Promise.resolve();
    const saved = before.catch(() => undefined).then(() => this.sendNext(document, body, send));
    this.tails.set(document, saved);
    return saved;
  }

  private async sendNext<T, B extends Revised>(document: string, body: B, send: (body: B) => Promise<T>): Promise<T> {
    const revision = Math.max(body.revision, this.revisions.get(document) ?? 0);
    try {
      const answer = await send({ ...body, revision });
      const { activityId } = (answer ?? {}) as { activityId?: string | null };
      // A change that changes nothing leaves the revision as it is.
      this.revisions.set(document, activityId ? revision + 1 : revision);
      return answer;
    } catch (error) {
      this.revisions.delete(document);
      throw error;
    }
  }
}
