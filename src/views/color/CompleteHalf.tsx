'use client';
import { useState } from 'react';
import { edgePlanes, halfPlane } from '@/core/shapes/check/completeHalf';
import type { Axis } from '@/core/shapes/pick/symmetry';
import { useEditor } from '@/state/kit/editor';
import { repairModel } from '@/state/files/importing';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { Modal } from '@/ui/Modal';
import { OfAllColorings } from '@/views/variants/OfAllColorings';

/** At which plane a half model is mirrored into a whole one. */
export function CompleteHalf({ id, onClose }: { id: string; onClose: () => void }) {
  const model = useEditor((s) => s.state.kit.models.find((m) => m.id === id));
  const mesh = useEditor((s) => (model ? s.meshes[model.mesh]?.mesh : undefined));
  const found = mesh ? halfPlane(mesh) : null;
  const [axis, setAxis] = useState<Axis>(found?.axis ?? 'x');
  const [text, setText] = useState<string | null>(null);
  if (!model || !mesh) return null;
  const proposed = found?.axis === axis ? found.offset : edgePlanes(mesh)[axis];
  const offset = text === null ? proposed : Number(text);
  return (
    <Modal
      open
      onClose={onClose}
      title={`Complete the other half of ${model.name}`}
      description={
        found
          ? `${found.edges} open edges lie in the plane ${found.axis} = ${short(found.offset)}: it looks cut in half there.`
          : 'It does not look cut in half anywhere; choose the plane at which its half ends.'
      }
    >
      <form
        className="mt-4"
        onSubmit={(e) => {
          e.preventDefault();
          onClose();
          void repairModel(id, 'complete', { plane: { axis, offset } });
        }}
      >
        <div className="flex items-center gap-3">
          <Choice
            label="Mirrored across"
            value={axis}
            options={[
              ['x', 'across x'],
              ['y', 'across y'],
              ['z', 'across z'],
            ]}
            onChange={(a) => {
              setAxis(a);
              setText(null);
            }}
            className="border border-ink"
          />
          <label className="flex items-center gap-2">
            at
            <input
              type="number"
              step="any"
              aria-label="Where the plane stands, metres"
              value={text ?? short(proposed)}
              onChange={(e) => setText(e.target.value)}
              className="w-24 border border-ink bg-white px-2 py-1 text-right"
            />
            m
          </label>
        </div>
        <OfAllColorings what="A mesh is" className="mt-3" />
        <p className="mt-3 text-quiet">
          Vertices on the plane are shared, so that both halves are welded. Colors, regions and seams come over; faces that lie in the plane
          go.
          {model.source.format === 'gltf' &&
            ' The whole leaves as a plain mesh: the file’s node tree, skins and animations fit only the half.'}
        </p>
        <Button kind="solid" type="submit" className="mt-4" disabled={!Number.isFinite(offset)}>
          Complete it
        </Button>
      </form>
    </Modal>
  );
}

const short = (v: number) => String(Number(v.toPrecision(5)));
