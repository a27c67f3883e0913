/** The Luby sequence 1 1 2 1 1 2 4 … at a place from 0 (Luby, Sinclair and Zuckerman, 1993). */
export function luby(place: number): number {
  let size = 1;
  let power = 0;
  while (size < place + 1) {
    size = 2 * size + 1;
    power++;
  }
  let rest = place;
  while (size - 1 !== rest) {
    size = (size - 1) >> 1;
    power--;
    rest %= size;
  }
  return 2 ** power;
}
