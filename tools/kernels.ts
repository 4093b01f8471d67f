import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import asc from 'assemblyscript/asc';

const SOURCE = 'src/vision/kernels/assembly/index.ts';
export const KERNEL_BYTES_FILE = 'src/vision/kernels/kernelBytes.ts';

/** The text of the module that holds the compiled kernels. @throws Error with what the compiler says. */
export async function compiledKernels(): Promise<string> {
  const folder = mkdtempSync(join(tmpdir(), 'kernels-'));
  try {
    const out = join(folder, 'kernels.wasm');
    const { error, stderr } = await asc.main([SOURCE, '-O3', '--noAssert', '--runtime', 'stub', '--enable', 'simd', '--outFile', out]);
    if (error) throw new Error(`the kernels do not compile\n${stderr}`);
    const bytes = readFileSync(out).toString('base64');
    return `/** The kernels in \`assembly/\`, compiled by \`npm run kernels\`. Not to be edited. */\nexport const KERNEL_BYTES =\n  '${bytes}';\n`;
  } finally {
    rmSync(folder, { recursive: true });
  }
}

if (process.argv[1]?.endsWith('kernels.ts')) writeFileSync(KERNEL_BYTES_FILE, await compiledKernels());
