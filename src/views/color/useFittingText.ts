import { useLayoutEffect, useRef } from 'react';

/** A line that is set smaller where it would not fit its place. Give the ref to an element whose children keep to one line. */
export function useFittingText() {
  const line = useRef<HTMLParagraphElement>(null);
  useLayoutEffect(() => {
    const element = line.current;
    if (!element) return;
    const fit = () => {
      element.style.fontSize = '';
      const own = parseFloat(getComputedStyle(element).fontSize);
      const share = element.clientWidth / element.scrollWidth;
      if (share < 1) element.style.fontSize = `${Math.max(11, Math.floor(own * share * 10) / 10)}px`;
    };
    fit();
    const words = new MutationObserver(fit);
    words.observe(element, { childList: true, subtree: true, characterData: true });
    const size = new ResizeObserver(fit);
    size.observe(element.parentElement!);
    return () => {
      words.disconnect();
      size.disconnect();
    };
  }, []);
  return line;
}
