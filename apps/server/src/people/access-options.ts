/** How a server lets people in. */
export interface AccessOptions {
  /** False where whoever reaches the server may do everything; only for a server that answers its own computer alone. */
  readonly accounts: boolean;
  /** Whether the server answers its own computer alone. */
  readonly loopback: boolean;
  /** Whether the accounts of the demo sign in by one press from other computers too. */
  readonly demo: boolean;
  /** Whether cookies are sent over https alone. */
  readonly secureCookies: boolean;
  /** Asked of whoever makes the first account from another computer. */
  readonly setUpCode: string;
}

/** As tests and programs within the process use it. */
export const WITHOUT_ACCOUNTS: AccessOptions = {
  accounts: false,
  loopback: true,
  demo: false,
  secureCookies: false,
  setUpCode: '',
};
