import { bake, readyFor } from '@kelp/core';
import { Command } from 'commander';
import { EXIT } from '../exit.js';
import { loadProject, surfacesOf } from '../load-project.js';
import { findingLine, print, printJson } from '../print.js';

export const checkCommand = (): Command =>
  new Command('check')
    .description(
      'Look the pieces of a project over: bends too tight or too coarse, cuts into props, into each other and into themselves. Exits with 1 if any is an error.',
    )
    .argument('<file>', '.kelp archive or .kelp.json')
    .option('--json', 'print the findings as one JSON value')
    .action(run);

async function run(file: string, { json }: { json?: boolean }): Promise<void> {
  const project = loadProject(file);
  await readyFor(project.document);
  // the meshes are looked at and let go
  const { pieces } = bake(project.document, await surfacesOf(project), { onMesh: () => {} });
  const findings = pieces.flatMap(({ name, findings: list }) => list.map((finding) => ({ piece: name, ...finding })));
  if (json) printJson(findings);
  else {
    for (const finding of findings) print(findingLine(finding.piece, finding));
    print(findings.length === 0 ? 'Nothing found.' : `${findings.length} found.`);
  }
  if (findings.some((finding) => finding.severity === 'error')) process.exitCode = EXIT.failed;
}
