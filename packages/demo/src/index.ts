export { demoProject } from './demo-project.js';
export { TEMPLATES, type TemplateId, templateProject } from './templates.js';
