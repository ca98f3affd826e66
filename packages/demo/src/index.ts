export { demoProject } from './demo-project.js';
