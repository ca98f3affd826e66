export { DEFAULT_PORT, type RunningServer, type ServerOptions, startServer } from './start.js';
