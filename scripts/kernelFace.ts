// Writes the typed face of the kernels: their functions as the compiler declares them, and their constants by value.
import { readFileSync, writeFileSync } from 'node:fs';
import { format, resolveConfig } from 'prettier';

/** `declared`: the declarations that the compiler wrote; `wasm`: what it compiled; `target`: the module to write. */
export async function writeKernelFace(declared: string, wasm: string, target: string): Promise<void> {
  const text = readFileSync(declared, 'utf8');
  const functions = [...text.matchAll(/export function (\w+\([^)]*\): [\w<>]+);/g)].map((m) => m[1]!);
  const { exports } = new WebAssembly.Instance(new WebAssembly.Module(readFileSync(wasm)), {});
  const constants = Object.entries(exports).flatMap(([name, value]) =>
    value instanceof WebAssembly.Global ? [`export const ${name} = ${String(value.value)};`] : [],
  );
  const known = Object.values(exports).filter((value) => typeof value === 'function').length;
  if (functions.length !== known)
    throw new Error(`${known} functions are exported, but ${functions.length} of them were found in ${declared}.`);
  const source = `// Written by scripts/kernelFace.ts from what src/kernels exports.
/** Addresses are byte offsets into the kernels' memory; see src/kernels for what each function does. */
export interface KernelExports {
  memory: WebAssembly.Memory;
  ${functions.map((f) => `${f};`).join('\n  ')}
}

${constants.join('\n')}
`;
  const written = await format(source, { ...(await resolveConfig(target)), filepath: target });
  // Untouched where nothing changed: what is built from it is not built again.
  if (readIfThere(target) !== written) writeFileSync(target, written);
}

function readIfThere(file: string): string | null {
  try {
    return readFileSync(file, 'utf8');
  } catch {
    return null;
  }
}
