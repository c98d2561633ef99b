import { useLayoutEffect, useRef } from 'react';

/** Pixels. */
const least = 11;

/**
 * A line that is set smaller where it would not fit its place. Give the ref to an element whose children keep
 * to one line.
 */
export function useFittingText() {
  const line = useRef<HTMLParagraphElement>(null);
  useLayoutEffect(() => {
    const element = line.current;
    if (!element) return;
    const fit = () => {
      element.style.fontSize = '';
      let size = parseFloat(getComputedStyle(element).fontSize);
      // Gaps and paddings do not all shrink with the letters, so once is not enough.
      for (let i = 0; i < 5 && element.scrollWidth > element.clientWidth && size > least; i++) {
        size = Math.max(least, Math.floor(size * (element.clientWidth / element.scrollWidth) * 10 - 1) / 10);
        element.style.fontSize = `${size}px`;
      }
    };
    const words = new MutationObserver(fit);
    words.observe(element, { childList: true, subtree: true, characterData: true });
    // It tells of the first size, too, once the page is laid out, and before it is painted.
    const size = new ResizeObserver(fit);
    size.observe(element.parentElement!);
    return () => {
      words.disconnect();
      size.disconnect();
    };
  }, []);
  return line;
}
