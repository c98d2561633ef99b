'use client';
import { useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import { outlineOnModel } from '@/core/faces/seat/texelsOnFaces';
import { usePaint } from '@/state/chosen/paint';
import { artInHand, ownersIn } from '@/state/paint/artInHand';
import { inkLine } from './inkLine';

/** The texels that a press would set, in outline on the model at every place where it shows them. */
export function LitTexels() {
  const invalidate = useThree((s) => s.invalidate);
  const line = useMemo(() => inkLine(), []);
  useEffect(() => {
    const follow = () => {
      const { lit } = usePaint.getState();
      const art = lit && artInHand();
      if (art && art.art === lit.art && lit.rim) {
        const { loaded, seats, cell, pixels } = art;
        line.set(outlineOnModel(loaded.mesh, loaded.triangles, seats, cell, pixels, ownersIn(art), lit.texels, lit.rim));
      } else line.set(new Float32Array());
      invalidate();
    };
    follow();
    const stop = usePaint.subscribe((now, before) => now.lit !== before.lit && follow());
    return () => {
      stop();
      line.dispose();
    };
  }, [line, invalidate]);
  return line.objects.map((o) => <primitive key={o.uuid} object={o} />);
}

/** The line along which a checker grows, while it is drawn and after. */
export function PaintLine() {
  const invalidate = useThree((s) => s.invalidate);
  const line = useMemo(() => inkLine(3), []);
  const drawn = usePaint((s) => s.drawnLine ?? (s.sets === 'checker' && s.isAlong ? s.line : null));
  useEffect(() => {
    line.set(drawn ? Float32Array.from(drawn.flat()) : new Float32Array());
    invalidate();
  }, [line, drawn, invalidate]);
  useEffect(() => () => line.dispose(), [line]);
  return line.objects.map((o) => <primitive key={o.uuid} object={o} />);
}
