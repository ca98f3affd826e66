/** A name that every file system takes. */
export const fileName = (name: string): string =>
  name
    .normalize('NFKD')
    .replaceAll(/[^\w.-]+/g, '-')
    .replaceAll(/^[-.]+|[-.]+$/g, '')
    .slice(0, 80) || 'project';
