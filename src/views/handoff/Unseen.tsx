import { useEffect } from 'react';
import { meshOf } from '@/state/kit/meshes';
import { useEditor } from '@/state/kit/editor';
import { leavingModels, type What } from '@/state/files/exporting';
import { stopLooking, trianglesOf, unseenFaces, useUnseen } from '@/state/proof/unseen';
import { Button } from '@/ui/Button';
import { ProgressLine } from '@/ui/ProgressLine';
import { Tick } from '@/ui/Tick';
import { count } from '@/ui/words';

/**
 * Faces that nobody can see may stay behind; what that saves is told first. They are looked for apart:
 * nothing waits for them.
 */
export function Unseen({ what }: { what: What }) {
  const { leaveOut, faces, busy } = useUnseen();
  const { models } = useEditor((s) => s.state.kit);
  const modelId = useEditor((s) => s.modelId);
  const meshes = useEditor((s) => s.meshes);
  const preparing = useEditor((s) => s.preparing);
  const chosen = models.filter((m) => what === 'kit' || m.id === modelId);
  const wanted = [...new Set(chosen.map((m) => m.mesh))];
  const known = wanted.filter((id) => faces[id]);
  const isLooking = wanted.some((id) => busy[id] !== undefined);

  useEffect(() => () => stopLooking(), []);
  const look = async () => {
    for (const model of leavingModels(what)) if ((await unseenFaces(await meshOf(model))) === null) return;
  };
  if (preparing > 0 || !chosen.length) return null;
  if (isLooking) {
    const share = (known.length + wanted.reduce((sum, id) => sum + (busy[id] ?? 0), 0)) / wanted.length;
    return (
      <div className="mb-4 flex items-center gap-3 border border-hairline bg-white px-4 py-2">
        <span>Looking for faces that cannot be seen from any side</span>
        <ProgressLine label="Looking for faces never seen" share={share} className="flex-1" />
        <Button kind="bare" onClick={stopLooking}>
          Stop
        </Button>
      </div>
    );
  }
  if (known.length < wanted.length)
    return (
      <div className="mb-4 flex items-center gap-3 border border-hairline bg-white px-4 py-2">
        <span>
          Faces that cannot be seen from any side can stay behind.
          {leaveOut && ` They are not yet known of ${count(wanted.length - known.length, 'model')}, and leave so far.`}
        </span>
        <Button className="ml-auto" onClick={() => void look()}>
          Look for them
        </Button>
      </div>
    );
  const withSome = chosen.filter((m) => faces[m.mesh]!.length);
  const triangles = withSome.reduce((n, m) => n + (meshes[m.mesh] ? trianglesOf(meshes[m.mesh]!, faces[m.mesh]!) : 0), 0);
  return (
    <div className="mb-4 border border-hairline bg-white px-4 py-2.5">
      {triangles === 0 ? (
        <p>Every face can be seen from some side: none stays behind.</p>
      ) : (
        <Tick
          label={`Leave out the faces that cannot be seen from any side. ${leaveOut ? 'Saved' : 'It would save'}: ${count(triangles, 'triangle')}${what === 'kit' ? ` in ${count(withSome.length, 'model')}` : ''}.`}
          value={leaveOut}
          onChange={(is) => useUnseen.setState({ leaveOut: is })}
        />
      )}
    </div>
  );
}
