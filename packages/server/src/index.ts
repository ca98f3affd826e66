export { type RunningServer, type ServerOptions, startServer } from './start.js';
