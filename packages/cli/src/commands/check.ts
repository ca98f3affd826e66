import { bake, readyFor } from '@kelp/core';
import { Command } from 'commander';
import { EXIT } from '../exit.js';
import { loadProject, surfacesOf } from '../load-project.js';
import { findingLine, print, printJson } from '../print.js';

export const checkCommand = (): Command =>
  new Command('check')
    .description(
      'Check a project for tight or coarse bends and for intersections with props, other pieces and itself. Exits with 1 on any error.',
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
    print(
      findings.length === 0 ? 'No findings.' : `${findings.length} ${findings.length === 1 ? 'finding' : 'findings'}.`,
    );
  }
  if (findings.some((finding) => finding.severity === 'error')) process.exitCode = EXIT.failed;
}
