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
        ? 'The prop this path is taken from is gone or hidden. Choose another one.'
        : 'Choose the prop to take the path from.',
    });
  return surface;
}
