import { connect, type Socket } from 'node:net';
import { createInterface } from 'node:readline';

export interface StreamTarget {
  readonly host: string;
  readonly port: number;
  readonly password: string;
  readonly name: string;
  readonly description: string;
  /** How long after it was lost a connection is tried again, ms by the player's clock; null never. */
  readonly reconnectMs: number | null;
}

export type StreamStatus = 'connected' | 'connecting' | 'down' | 'refused';

/** The connection of a player to its stream server, kept up by being told the time. */
export class StreamClient {
  private socket: Socket | null = null;
  private state: StreamStatus = 'down';
  private since: number;
  private retryAt: number | null;
  private why = '';
  private listeners: number | null = null;
  private playing: { readonly artist: string; readonly title: string } | null = null;

  constructor(
    private target: StreamTarget,
    private readonly now: () => number,
  ) {
    this.since = now();
    this.retryAt = this.since;
  }

  /** Its state, since when by the player's clock, and what was said when it was lost. */
  get status(): {
    readonly state: StreamStatus;
    readonly sinceMs: number;
    readonly why: string;
    /** As the server counts them; null where it has not told. */
    readonly listeners: number | null;
    readonly reconnectMs: number | null;
    readonly retryAtMs: number | null;
  } {
    const { state, since: sinceMs, why, listeners, retryAt: retryAtMs } = this;
    return { state, sinceMs, why, listeners, reconnectMs: this.target.reconnectMs, retryAtMs };
  }

  set reconnectMs(reconnectMs: number | null) {
    this.target = { ...this.target, reconnectMs };
    if (this.state === 'down' || this.state === 'refused') this.retryAt = reconnectMs === null ? null : this.now();
  }

  /** Connects where it is time to. */
  tick(): void {
    if (this.retryAt !== null && this.retryAt <= this.now()) this.connect();
  }

  tell(playing: { readonly artist: string; readonly title: string }): void {
    this.playing = playing;
    this.send();
  }

  close(): void {
    this.retryAt = null;
    this.socket?.destroy();
  }

  private send(): void {
    if (this.state === 'connected' && this.playing) this.write({ type: 'now', ...this.playing, atMs: this.now() });
  }

  private connect(): void {
    const { host, port, password, name, description } = this.target;
    this.retryAt = null;
    this.become('connecting', this.state === 'down' || this.state === 'refused' ? this.since : this.now());
    const socket = connect({ host, port });
    this.socket = socket;
    socket.setNoDelay(true);
    let refusal = '';
    socket.on('connect', () => this.write({ type: 'source', password, name, description }));
    const lines = createInterface({ input: socket });
    // A fault of the socket is told by the reader of its lines as well.
    lines.on('error', () => {});
    lines.on('line', (line) => {
      const said = messageOf(line);
      if (said.type === 'welcome') {
        this.become('connected', this.now());
        this.send();
      } else if (said.type === 'listeners') this.listeners = said.count ?? null;
      else if (said.type === 'refused') refusal = said.why ?? 'It was refused.';
    });
    socket.on('error', (error: NodeJS.ErrnoException) => {
      this.why = error.code === 'ECONNREFUSED' ? 'Nobody answers there.' : error.message;
    });
    socket.on('close', () => {
      if (this.socket !== socket) return;
      this.socket = null;
      this.listeners = null;
      if (refusal) this.why = refusal;
      else if (this.state === 'connected') this.why = 'The server dropped the connection.';
      const sinceMs = this.state === 'connected' ? this.now() : this.since;
      this.become(refusal ? 'refused' : 'down', sinceMs);
      const { reconnectMs } = this.target;
      this.retryAt = reconnectMs === null ? null : this.now() + reconnectMs;
    });
  }

  private become(state: StreamStatus, sinceMs: number): void {
    this.state = state;
    this.since = sinceMs;
    if (state === 'connected') this.why = '';
  }

  private write(message: object): void {
    this.socket?.write(`${JSON.stringify(message)}\n`);
  }
}

/** What the server says; a connection that breaks off may leave half a line. */
function messageOf(line: string): { readonly type: string; readonly why?: string; readonly count?: number } {
  try {
    return JSON.parse(line) as { type: string };
  } catch {
    return { type: '' };
  }
}
