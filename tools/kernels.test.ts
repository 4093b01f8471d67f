import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { compiledKernels, KERNEL_BYTES_FILE } from './kernels';

it('the kernels are what their sources compile to', async () => {
  expect(await compiledKernels()).toBe(readFileSync(KERNEL_BYTES_FILE, 'utf8'));
});
