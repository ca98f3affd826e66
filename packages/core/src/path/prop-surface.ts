import type { Surface } from '../surface/surface.js';
import type { BuildContext } from '../unit/unit.js';

/** The prop a path is taken from: the named one, or the only one there is. Reports why there is none. */
export function pathProp(id: string, context: BuildContext): Surface | undefined {
  const surface = id ? context.surroundings.surface(id) : context.surroundings.only;
  if (!surface)
    context.report({
      code: 'prop-missing',
      severity: 'error',
      message: id
        ? 'The prop of this path is missing or hidden. Choose another one.'
        : 'No prop is chosen for this path. Pick one.',
    });
  return surface;
}
