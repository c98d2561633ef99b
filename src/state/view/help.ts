import { create } from 'zustand';

export const useHelp = create<{ isOpen: boolean }>(() => ({ isOpen: false }));
