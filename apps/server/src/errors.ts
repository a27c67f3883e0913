import { ERROR_CODES, type ErrorCode } from '@fuller/contracts';

export { ERROR_CODES, type ErrorCode } from '@fuller/contracts';

/** The one error type of the server. */
export class FullerError extends Error {
  readonly status: number;

  constructor(
    readonly code: ErrorCode,
    message: string,
    readonly field?: string,
  ) {
    super(message);
    this.name = 'FullerError';
    this.status = ERROR_CODES[code].status;
  }
}

export function notFound(what: string, id: string): FullerError {
  return new FullerError('NOT_FOUND', `There is no ${what} “${id}”.`);
}
