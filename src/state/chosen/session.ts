import type { StoreApi } from 'zustand';

const endings: (() => void)[] = [];

/**
 * Marks a store as belonging to the open kit: it begins anew with the next one. `keep`: fields that do not
 * concern the kit.
 */
export function perKit<S, T extends Pick<StoreApi<S>, 'getState' | 'setState' | 'getInitialState'>>(
  store: T,
  keep: readonly (keyof S)[] = [],
): T {
  onKitClosed(() => {
    const kept = Object.fromEntries(keep.map((key) => [key, store.getState()[key]])) as Partial<S>;
    store.setState({ ...store.getInitialState(), ...kept }, true);
  });
  return store;
}

/** What else must end with a kit, such as work that is under way for it. */
export const onKitClosed = (end: () => void): number => endings.push(end);

/** Lets go of everything that belonged to the kit that was open. */
export function endSession(): void {
  for (const end of endings) end();
}
