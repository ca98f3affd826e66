/** Where the server listens by default. */
export const DEFAULT_PORT = 4880;
