/** Where the server listens unless it is told otherwise. */
export const DEFAULT_PORT = 4880;
