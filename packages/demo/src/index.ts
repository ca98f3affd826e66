export { demoProject } from './demo-project.js';
export { DEMOS } from './demos.js';
export { manyCorners } from './many-corners.js';
export { TEMPLATES, type TemplateId, templateProject } from './templates.js';
