/** What the engine sees. Times are whole seconds; 0 is the start of the first day, history is negative. */
export interface Instance {
  readonly format: 'fuller-instance';
  readonly version: 1;
  readonly items: readonly InstanceItem[];
  readonly pools: Readonly<Record<string, InstancePool>>;
  /** In time order. */
  readonly slots: readonly InstanceSlot[];
  readonly history: readonly HistoryPlay[];
  readonly rules: readonly InstanceRule[];
}

export interface InstanceItem {
  readonly id: string;
  readonly duration: number;
  readonly tags: Readonly<Record<string, readonly string[]>>;
}

export interface InstancePool {
  readonly items: readonly string[];
  readonly order: 'even';
}

export interface InstanceSlot {
  readonly id: string;
  readonly start: number;
  /** Local hour, counted from 0 through the whole instance. */
  readonly hour: number;
  readonly pool: string;
  /** The item a person has fixed here. */
  readonly locked?: string;
  /** Ids of rules that do not look at this slot. */
  readonly exempt?: readonly string[];
}

export interface HistoryPlay {
  readonly item: string;
  readonly start: number;
}

export interface InstanceRule {
  readonly id: string;
  readonly shape: 'apart';
  readonly tag: string;
  readonly seconds: number;
  readonly secondsByPool?: Readonly<Record<string, number>>;
  readonly strength: 'hard';
}
