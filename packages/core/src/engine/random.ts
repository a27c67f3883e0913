/** A seeded stream of numbers: xoshiro128** of Blackman and Vigna (2018), seeded by splitmix32. */
export class Random {
  private a: number;
  private b: number;
  private c: number;
  private d: number;

  constructor(seed: number) {
    let state = seed | 0;
    const next = (): number => {
      state = (state + 0x9e3779b9) | 0;
      return mix(state);
    };
    [this.a, this.b, this.c, this.d] = [next(), next(), next(), next() | 1];
  }

  /** A whole number in [0, 2³²). */
  bits(): number {
    const scaled = Math.imul(this.b, 5);
    const result = Math.imul((scaled << 7) | (scaled >>> 25), 9) >>> 0;
    const shifted = this.b << 9;
    this.c ^= this.a;
    this.d ^= this.b;
    this.b ^= this.c;
    this.a ^= this.d;
    this.c ^= shifted;
    this.d = (this.d << 11) | (this.d >>> 21);
    return result;
  }

  /** A number in [0, 1). */
  unit(): number {
    return this.bits() / 4_294_967_296;
  }

  /** A number of the exponential distribution of mean 1, to about one part in a thousand. */
  exponential(): number {
    return EXPONENTIAL[this.bits() >>> 20]!;
  }

  /**
   * A number g such that the candidate with the least cost + T g is a draw from the Boltzmann
   * distribution at temperature T (the Gumbel-max trick).
   */
  gumbel(): number {
    return GUMBEL[this.bits() >>> 20]!;
  }

  /** A whole number in [0, n), n below 2²¹. */
  below(n: number): number {
    return Math.floor((this.bits() * n) / 4_294_967_296);
  }
}

/** Natural logarithm by sums and products alone, so that every machine has the same; x above 0. */
function logarithm(x: number): number {
  let [mantissa, twos] = [x, 0];
  for (; mantissa < 1; mantissa *= 2) twos--;
  for (; mantissa >= 2; mantissa /= 2) twos++;
  // ln m = 2 artanh((m - 1) / (m + 1)).
  const z = (mantissa - 1) / (mantissa + 1);
  let sum = 0;
  for (let n = 39; n >= 1; n -= 2) sum = sum * z * z + 1 / n;
  return twos * 0.693147180559945309 + 2 * z * sum;
}

const STEPS = 4096;
/** Quantiles of the exponential distribution of mean 1. */
const EXPONENTIAL = Float64Array.from({ length: STEPS }, (_, i) => -logarithm((i + 0.5) / STEPS));
/** Their logarithms: quantiles of the Gumbel distribution, turned over. */
const GUMBEL = EXPONENTIAL.map(logarithm);

/** The finisher of splitmix32: every bit of the input sways every bit of the output. */
function mix(state: number): number {
  let mixed = state;
  mixed = Math.imul(mixed ^ (mixed >>> 16), 0x21f0aaad);
  mixed = Math.imul(mixed ^ (mixed >>> 15), 0x735a2d97);
  return mixed ^ (mixed >>> 15);
}

/** A number in [0, 1) that depends on three others alone, so that an order can be random and yet be asked for twice. */
export function hashed(seed: number, first: number, second: number): number {
  const mixed = mix(mix(mix(seed | 0) ^ Math.imul(first + 1, 0x9e3779b9)) ^ Math.imul(second + 1, 0x85ebca6b));
  return (mixed >>> 0) / 4_294_967_296;
}

/** A seeded stream of numbers in [0, 1). */
export function seededRandom(seed: number): () => number {
  const random = new Random(seed);
  return () => random.unit();
}
