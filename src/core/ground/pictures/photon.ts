import { initPhoton, type PhotonImage } from '@cf-wasm/photon/others';

/** The decoder's compiled code, and the instance of it that is in use. */
let code: WebAssembly.Module | null = null;
let imports: WebAssembly.Imports;
let instance: WebAssembly.Instance;

/**
 * Starts the package's decoder so that it can be renewed. The package makes one instance for ever; but a trap
 * on a damaged picture leaves that with its stack not unwound, so that after some thousands of them it fails
 * on good ones. It is therefore given exports that lead to whichever instance is in use. Only while it starts
 * is the constructor another.
 */
export function startPhoton(wasm: BufferSource): void {
  if (code) return;
  const Instance = WebAssembly.Instance;
  const made = new WebAssembly.Module(wasm);
  try {
    WebAssembly.Instance = function (module: WebAssembly.Module, given: WebAssembly.Imports) {
      imports = given;
      instance = new Instance(module, given);
      return { exports: new Proxy({}, { get: (_, name) => instance.exports[name as string] }) };
    } as never;
    initPhoton.sync({ module: made });
  } finally {
    WebAssembly.Instance = Instance;
  }
  code = made;
}

/**
 * A fresh instance after a trap. `broken`: what the old one had made, which the package must not give back to
 * the new one.
 */
export function renewPhoton(broken: PhotonImage | null): void {
  (broken as unknown as { __destroy_into_raw: () => void } | null)?.__destroy_into_raw();
  const { memory } = instance.exports as { memory: WebAssembly.Memory };
  instance = new WebAssembly.Instance(code!, imports);
  // Growing the old memory lets go of its buffer, by which the package notices that its views are stale.
  memory.grow(1);
  (instance.exports.__wbindgen_start as () => void)();
}
