'use client';
import { cancelWriting, useWriting } from '@/state/files/exporting';
import { bringInStage, downloadScene, downloadStage, sceneEnding, takeInStage, useReadStage } from '@/state/files/stageFiles';
import { useStage } from '@/state/stage/stage';
import { useBase } from '@/state/kit/useCurrent';
import { notifyError } from '@/state/told/notices';
import { Button } from '@/ui/Button';
import { FileChooser } from '@/ui/FileChooser';
import { Modal } from '@/ui/Modal';
import { Tick } from '@/ui/Tick';
import { count } from '@/ui/words';

/** A stage leaves as a scene or as a list for scripts, and comes in again from both. */
export function StageFiles() {
  const { placements = [], cues = [] } = useBase().kit;
  const leavesInstanced = useStage((s) => s.leavesInstanced);
  const isWriting = useWriting((w) => w.name.endsWith(sceneEnding));
  const read = useReadStage((s) => s.read);
  const isEmpty = !placements.length && !cues.length;

  const take = (how: 'instead' | 'beside') => () => read && takeInStage(read, how);
  const leaveItThere = () => useReadStage.setState({ read: null });
  const leave = (work: () => void | Promise<void>) => () => void Promise.resolve().then(work).catch(notifyError);

  return (
    <section aria-label="Stage files" className="mt-5 border-t border-hairline pt-4">
      <h2 className="text-[14px] font-bold">Stage files</h2>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        {isWriting ? (
          <>
            <span role="status">Writing…</span>
            <Button aria-label="Cancel writing the scene" onClick={cancelWriting}>
              Cancel
            </Button>
          </>
        ) : (
          <Button disabled={!placements.length} onClick={leave(() => downloadScene(leavesInstanced))}>
            Scene as GLB
          </Button>
        )}
        <Button disabled={isEmpty} onClick={leave(downloadStage)}>
          stage.json
        </Button>
        <FileChooser
          label="Stage file to bring in"
          accept=".json,.glb"
          onFiles={([file]) => void bringInStage(file!)}
          className="inline-flex min-h-8 items-center border border-ink bg-white px-3 font-medium hover:bg-wash"
        >
          Bring in…
        </FileChooser>
      </div>
      <Tick
        label="Instances for what stands there several times"
        value={leavesInstanced}
        onChange={(is) => useStage.setState({ leavesInstanced: is })}
        className="mt-2 text-[12px]"
      />
      <p className="mt-1 text-[12px] text-quiet">
        {leavesInstanced
          ? 'With EXT_mesh_gpu_instancing, which what opens it must know.'
          : 'A node for each, of one mesh a coloring. Variants and cues are inside.'}
      </p>
      <Modal
        open={read !== null}
        onClose={leaveItThere}
        title={read ? `Bring in ${read.file}` : ''}
        description={`It has ${sizeOf(read?.stage)}. Here there ${placements.length === 1 ? 'is' : 'are'} ${sizeOf({ placements, cues })}.`}
      >
        <div className="mt-5 flex justify-end gap-2">
          <Button kind="bare" onClick={leaveItThere}>
            Cancel
          </Button>
          <Button onClick={take('beside')}>Add to what is here</Button>
          <Button kind="solid" onClick={take('instead')}>
            Replace what is here
          </Button>
        </div>
      </Modal>
    </section>
  );
}

const sizeOf = ({ placements, cues }: { placements: readonly unknown[]; cues: readonly unknown[] } = { placements: [], cues: [] }) =>
  `${count(placements.length, 'model')} and ${count(cues.length, 'cue')}`;
