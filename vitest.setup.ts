import fc from 'fast-check';
import { expect } from 'vitest';

// one that fails is made smaller for minutes: then it reports what it has
fc.configureGlobal({ interruptAfterTimeLimit: 200_000 });

/** Arrays of a million numbers that are the same bytes are the same; where they are not, each number is looked at. */
expect.addEqualityTesters([
  (a, b) => {
    if (!ArrayBuffer.isView(a) || !ArrayBuffer.isView(b) || a.constructor !== b.constructor) return undefined;
    const bytes = ({ buffer, byteOffset, byteLength }: ArrayBufferView) => Buffer.from(buffer, byteOffset, byteLength);
    return bytes(a).equals(bytes(b)) || undefined;
  },
]);
