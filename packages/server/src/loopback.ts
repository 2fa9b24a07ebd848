/** Accounts come in a later version: until then nobody but this machine may reach the app. */
export const isLoopback = (host: string): boolean =>
  host === 'localhost' || host === '::1' || /^127(\.\d{1,3}){3}$/.test(host);

export const loopbackOnly =
  'HOST may only be this machine (127.0.0.1, ::1 or localhost) until Jiko has accounts: whoever reaches it may read and write everything.';
