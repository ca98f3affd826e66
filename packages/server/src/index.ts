export { type BackupContent, backupDatabase, restoreDatabase } from './database/backup.js';
export { type RunningServer, type ServerOptions, startServer } from './start.js';
