import type { BuildContext } from './unit.js';

/** Whether a picture can be gone by; says why where it cannot. */
export function isRead(id: string, context: BuildContext): boolean {
  const found = context.picture(id);
  if (found?.shades) return true;
  context.report({
    code: 'picture-unread',
    severity: 'error',
    message: found
      ? `The picture “${found.picture.name}” cannot be read: it is missing, broken, or has more than 4096 × 4096 pixels. Bring it in again, or choose another one.`
      : 'The picture they go by is not there any more. Choose another one.',
  });
  return false;
}
