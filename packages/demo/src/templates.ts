import { emptyDocument } from '@kelp/core';
import type { Project } from '@kelp/formats';
import { demoProject } from './demo-project.js';

/** What a new project can begin with. */
export const TEMPLATES = [
  { id: 'empty', label: 'Empty', purpose: 'Empty ground. Drop a mesh on the view, or draw in the air.' },
  { id: 'deck', label: 'Deck', purpose: 'A pier with bollards and lamp posts, ready to draw on.' },
  { id: 'farm', label: 'Kelp farm', purpose: 'The whole corner with its cables, to explore.' },
] as const;

export type TemplateId = (typeof TEMPLATES)[number]['id'];

const ON_DECK = new Set(['pier', 'bollards', 'lamp-posts']);

/** A project of that name as its template lays it out. */
export async function templateProject(template: TemplateId, name: string): Promise<Project> {
  if (template === 'empty') return { document: emptyDocument(name), props: new Map() };
  const { document, props } = await demoProject();
  if (template === 'farm') return { document: { ...document, name }, props };
  const kept = document.props.filter(({ id }) => ON_DECK.has(id));
  return {
    document: { ...document, name, props: kept, curves: [], pieces: [] },
    props: new Map([...props].filter(([hash]) => kept.some(({ mesh }) => mesh === hash))),
  };
}
