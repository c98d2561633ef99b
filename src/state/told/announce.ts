import { create } from 'zustand';

/** Says something to those who listen rather than look. */
export const useAnnouncement = create<{ text: string }>(() => ({ text: '' }));
export function announce(text: string): void {
  // The same words twice are said twice.
  useAnnouncement.setState(({ text: before }) => ({ text: before === text ? `${text}\u00a0` : text }));
}
