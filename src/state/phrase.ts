import { create } from 'zustand';
import type { Scope } from '@/core/pick/scopes';

export interface PhraseState {
  scope: Scope;
  /** Degrees; `null`: as proposed for the model. */
  flat: number | null;
  smooth: number | null;
  /** What a click does: pick faces, add to or take from the pick, or color at once. */
  act: 'pick' | 'add' | 'take' | 'color';
}

export const usePhrase = create<PhraseState>(() => ({ scope: 'flat', flat: null, smooth: null, act: 'pick' }));

export const scopeWords: Record<Scope, string> = {
  face: 'one face',
  flat: 'the flat area',
  smooth: 'the smooth area',
  part: 'the whole part',
  object: 'the whole object',
  color: 'everything of the same color',
};
export const usesAngle = (scope: Scope): scope is 'flat' | 'smooth' => scope === 'flat' || scope === 'smooth';
