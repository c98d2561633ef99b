import { useEffect, useState, type RefObject } from 'react';

/** The inner size of an element, as it changes; zero until it is known. */
export function useSize(element: RefObject<HTMLElement | null>): { width: number; height: number } {
  const [size, setSize] = useState({ width: 0, height: 0 });
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => setSize({ width: entry!.contentRect.width, height: entry!.contentRect.height }));
    watch.observe(element.current!);
    return () => watch.disconnect();
  }, [element]);
  return size;
}
