import * as v from 'valibot';

const text = v.pipe(v.string(), v.minLength(1), v.maxLength(200));
/** Who asks, and for what: made up beforehand. */
export const WishListSchema = v.object({
  songs: v.pipe(v.array(v.object({ title: text, artist: v.string() })), v.minLength(1)),
  listeners: v.pipe(v.array(text), v.minLength(1)),
  /** Songs nobody has. */
  unknown: v.array(v.object({ title: text, artist: v.string() })),
});
export type WishList = v.InferOutput<typeof WishListSchema>;

/** What a listener asks for; numbers grow by one. */
export interface MadeWish {
  readonly n: number;
  readonly atMs: number;
  readonly listener: string;
  readonly title: string;
  readonly artist: string;
}

const HOUR_MS = 3_600_000;
/** So many come at once at most, however long nobody asked. */
const MOST_AT_ONCE = 20;

/** Listeners who ask now and then: one in ten mistypes, one in ten wants what is not there, a few ask again and again. */
export class WishMaker {
  readonly wishes: MadeWish[] = [];
  private lastMs: number | null = null;
  private owed = 0;

  constructor(
    private readonly list: WishList,
    /** So many an hour by the station's clock. */
    public perHour: number,
    private readonly random: () => number = Math.random,
  ) {}

  /** Makes up what has been asked for until an instant by the station's clock. */
  until(nowMs: number): void {
    const passedMs = this.lastMs === null ? 0 : Math.max(0, nowMs - this.lastMs);
    this.lastMs = nowMs;
    this.owed = Math.min(MOST_AT_ONCE, this.owed + (passedMs / HOUR_MS) * this.perHour);
    for (; this.owed >= 1; this.owed--) this.add(nowMs);
  }

  after(n: number): readonly MadeWish[] {
    return this.wishes.filter((wish) => wish.n > n);
  }

  add(atMs: number, wish?: Pick<MadeWish, 'listener' | 'title' | 'artist'>): MadeWish {
    const made = { n: (this.wishes.at(-1)?.n ?? 0) + 1, atMs, ...(wish ?? this.makeUp()) };
    this.wishes.push(made);
    if (this.wishes.length > 2000) this.wishes.splice(0, 1000);
    return made;
  }

  private makeUp(): Pick<MadeWish, 'listener' | 'title' | 'artist'> {
    const { songs, listeners, unknown } = this.list;
    // The square makes the first names of the list ask more often than the last.
    const listener = this.pick(listeners, this.random() ** 2);
    const dice = this.random();
    if (dice < 0.1 && unknown.length > 0) return { listener, ...this.pick(unknown) };
    const song = this.pick(songs, this.random() ** 2);
    return dice < 0.2 ? { listener, ...song, title: this.mistyped(song.title) } : { listener, ...song };
  }

  private mistyped(title: string): string {
    const at = Math.floor(this.random() * (title.length - 1));
    return title.slice(0, at) + title.charAt(at + 1) + title.charAt(at) + title.slice(at + 2);
  }

  private pick<T>(list: readonly T[], share = this.random()): T {
    return list[Math.min(list.length - 1, Math.floor(share * list.length))]!;
  }
}
