'use client';
import { useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import { useCut } from '@/state/cut/cutting';
import { inkLine } from './inkLine';

/** Where a click would cut, on the model. */
export function CutLines() {
  const invalidate = useThree((s) => s.invalidate);
  const line = useMemo(() => inkLine(), []);
  useEffect(() => {
    const follow = () => {
      line.set(useCut.getState().lit?.lines ?? new Float32Array());
      invalidate();
    };
    follow();
    const stop = useCut.subscribe((now, before) => now.lit !== before.lit && follow());
    return () => {
      stop();
      line.dispose();
    };
  }, [line, invalidate]);
  return line.objects.map((o) => <primitive key={o.uuid} object={o} />);
}
