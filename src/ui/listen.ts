type Handlers = { [K in keyof HTMLElementEventMap]?: (event: HTMLElementEventMap[K]) => void };

/** Listens to several events of an element or the window; returns how to stop. */
export function listen(element: HTMLElement | Window, handlers: Handlers): () => void {
  const entries = Object.entries(handlers) as [string, EventListener][];
  for (const [type, handler] of entries) element.addEventListener(type, handler);
  return () => entries.forEach(([type, handler]) => element.removeEventListener(type, handler));
}
