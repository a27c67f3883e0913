import { describe, expect, it } from '@jest/globals';
import { DocumentQueue } from './document-queue';

/** A server that refuses a revision that is not its own, and answers late. */
function server() {
  let revision = 4;
  const got: string[] = [];
  return {
    got,
    elsewhere: () => revision++,
    send: async (body: { revision: number; text: string }) => {
      await new Promise((resolve) => setTimeout(resolve, 5));
      if (body.revision !== revision) throw new Error(`somebody else changed it: ${body.revision} is not ${revision}`);
      got.push(body.text);
      if (body.text === 'same') return { activityId: null };
      revision++;
      return { activityId: `a${revision}` };
    },
  };
}

describe('DocumentQueue', () => {
  it('sends quick changes one after the other, each from what the one before it left', async () => {
    const [queue, there] = [new DocumentQueue(), server()];
    const texts = ['a', 'b', 'same', 'c'];
    await Promise.all(texts.map((text) => queue.save('doc', { revision: 4, text }, there.send)));
    expect(there.got).toEqual(texts);
  });

  it('still tells when somebody else has changed the document', async () => {
    const [queue, there] = [new DocumentQueue(), server()];
    await queue.save('doc', { revision: 4, text: 'mine' }, there.send);
    there.elsewhere();
    await expect(queue.save('doc', { revision: 5, text: 'late' }, there.send)).rejects.toThrow('somebody else');
    // Once the newest has been read, changes go through again.
    await queue.save('doc', { revision: 6, text: 'again' }, there.send);
    expect(there.got).toEqual(['mine', 'again']);
  });
});
