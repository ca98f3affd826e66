import type { BuildContext } from './unit.js';

/** Whether a picture can be gone by; says why where it cannot. */
export function isRead(id: string, context: BuildContext): boolean {
  const found = context.picture(id);
  if (found?.shades) return true;
  context.report({
    code: 'picture-unread',
    severity: 'error',
    message: found
      ? `The image “${found.picture.name}” cannot be read: it is missing, broken, or larger than 4096 × 4096 pixels. Import it again, or choose another one.`
      : 'The mask image is missing. Choose another one.',
  });
  return false;
}
