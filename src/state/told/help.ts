import { create } from 'zustand';

/** `page`: the way of a model through the application, or all keys. */
export const useHelp = create<{ isOpen: boolean; page: 'way' | 'keys' }>(() => ({ isOpen: false, page: 'way' }));
