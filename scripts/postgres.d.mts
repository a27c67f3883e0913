export interface TemporaryPostgres {
  readonly url: string;
  readonly pid: number;
  stop(): Promise<void>;
}
export function postgresPrograms(): string | null;
export function startPostgres(how?: { readonly durable?: boolean }): Promise<TemporaryPostgres | null>;
