/** Every error the server answers with: a code that never changes, its status and what to do about it. */
export const ERROR_CODES = {
  NOT_FOUND: { status: 404, remedy: 'The thing was deleted or the address is wrong; go back to the list.' },
  INVALID: { status: 400, remedy: 'Correct the named field and send it again.' },
  FORBIDDEN: {
    status: 403,
    remedy:
      'Ask a director for the right; use an address this server was started with; other programs name themselves in the header X-Client.',
  },
  SIGN_IN: { status: 401, remedy: 'Sign in, or send a token with the header Authorization.' },
  CONFLICT: {
    status: 409,
    remedy: 'Somebody changed the same thing meanwhile; check how it is now, then repeat your change.',
  },
  IN_USE: { status: 409, remedy: 'Take it out of the places named first.' },
  NAME_TAKEN: { status: 409, remedy: 'Choose another name or code.' },
  TOO_LARGE: { status: 413, remedy: 'Split the file and import the parts.' },
  NOT_A_TEXT: { status: 422, remedy: 'Choose a CSV or other delimited text file.' },
  CANNOT_UNDO: { status: 409, remedy: 'The things it changed have been changed again; undo those changes first.' },
  NO_LOG: { status: 404, remedy: 'Generate the day first.' },
  DEVICE: { status: 502, remedy: 'Look at the device and at its address, then try again.' },
  STORAGE: {
    status: 507,
    remedy: 'Free space on the disk, or let Fuller write to its data folder; nothing of this change was kept.',
  },
  TOO_MANY: { status: 429, remedy: 'Wait a moment and try again.' },
  UNEXPECTED: { status: 500, remedy: 'Try again; if it stays, look at the server’s messages.' },
} as const;
export type ErrorCode = keyof typeof ERROR_CODES;

/** Errors that any address can answer with: by its caller, by its size or speed, or by a fault of the server. */
export const COMMON_ERRORS: readonly ErrorCode[] = [
  'FORBIDDEN',
  'SIGN_IN',
  'STORAGE',
  'TOO_LARGE',
  'TOO_MANY',
  'UNEXPECTED',
];
