export {};

/** What waits in the page has its turn. */
const breath = () => new Promise((resolve) => setTimeout(resolve));

// code that comes at once holds the page up while it sets itself up: each step is a task of its own
await import('./state/project-slice.js');
await breath();
const { start } = await import('./app/start.js');
await breath();
start();
