/** A function whose answer for a key is made once, and kept as long as the key is. The key must not change in between. */
export function remembered<K extends object, V>(make: (key: K) => V): (key: K) => V {
  const known = new WeakMap<K, { value: V }>();
  return (key) => {
    let found = known.get(key);
    if (!found) known.set(key, (found = { value: make(key) }));
    return found.value;
  };
}
