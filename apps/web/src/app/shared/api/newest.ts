/** Tells the newest question from older ones, whose answers may come later and know less. */
export class Newest {
  private asked = 0;

  /** Begins a question; the function answers whether it is still the newest. */
  begin(): () => boolean {
    const own = ++this.asked;
    return () => own === this.asked;
  }
}
