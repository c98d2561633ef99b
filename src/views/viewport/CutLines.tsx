'use client';
import { useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import { useCut } from '@/state/cut/cutting';
import { useTakingAway } from '@/state/cut/takingAway';
import { current } from '@/state/kit/editor';
import { inkLine } from './inkLine';

/** Where a click would cut, on the model; or the edges that would go. */
export function CutLines() {
  const invalidate = useThree((s) => s.invalidate);
  const line = useMemo(() => inkLine(), []);
  useEffect(() => {
    const follow = () => {
      const { isOpen, found } = useTakingAway.getState();
      const idle = isOpen && found?.mesh === current()?.loaded?.id ? found : null;
      line.set((idle ?? useCut.getState().lit)?.lines ?? new Float32Array());
      invalidate();
    };
    follow();
    const stops = [
      useCut.subscribe((now, before) => now.lit !== before.lit && follow()),
      useTakingAway.subscribe((now, before) => (now.found !== before.found || now.isOpen !== before.isOpen) && follow()),
    ];
    return () => {
      for (const stop of stops) stop();
      line.dispose();
    };
  }, [line, invalidate]);
  return line.objects.map((o) => <primitive key={o.uuid} object={o} />);
}
