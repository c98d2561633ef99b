'use client';
import { useLiveQuery } from 'dexie-react-hooks';
import { MoreHorizontal } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useGo, ViewLink } from '@/views/shell/ViewLink';
import { useEffect, useRef, useState } from 'react';
import { binKit, listKits, unbinKit, type KitEntry } from '@/data/kits';
import { tidy } from '@/data/storage';
import { isModelFile } from '@/core/ground/bytes/fileKinds';
import { closeKit, openKit } from '@/state/kit/openKit';
import { cancelOpening, duplicateKit, isArchive, makeKit, openArchive, openDemo, renameKit } from '@/state/kit/home';
import { freeName } from '@/core/kit/freeName';
import { toWhereItGoesOn } from '@/state/files/afterImport';
import { importFiles } from '@/state/files/importing';
import { useEditor } from '@/state/kit/editor';
import { notify, notifyError } from '@/state/told/notices';
import { Button } from '@/ui/Button';
import { droppedFiles } from '@/ui/droppedFiles';
import { Menu } from '@/ui/Menu';
import { listen } from '@/ui/listen';
import { Rename } from '@/ui/Rename';
import { bytes, count, number } from '@/ui/words';
import { HelpKey } from '../shell/HelpKey';
import { Mark } from '../shell/Mark';
import { loadViewport } from '../viewport/lazyViewport';
import { KitPicture, SheetOfKit } from './KitPicture';
import { readyToOpen } from './readyToOpen';

/** All kits of this browser. */
export function HomeView() {
  // Another tab may have changed what is there.
  const [visit, setVisit] = useState(0);
  useEffect(() => listen(window, { focus: () => setVisit((n) => n + 1) }), []);
  const found = useLiveQuery(() => listKits().catch(() => 'refused' as const), [visit]);
  const kits = found === 'refused' ? undefined : found;
  const router = useRouter();
  const go = useGo();
  const chooser = useRef<HTMLInputElement>(null);
  const [busy, setBusy] = useState('');

  useEffect(() => {
    // Where storage is refused there is nothing to tidy, and the page says so.
    // The list is read again once the last edits are written: it does not follow what is written past its package.
    void closeKit()
      .then(() => setVisit((n) => n + 1))
      .then(tidy)
      .catch(() => undefined);
  }, []);
  useEffect(() => {
    // What a kit is opened with is made ready while the artist looks.
    router.prefetch('/kit/demo/color');
    return readyToOpen();
  }, [router]);

  const attempt = async (doing: string, work: () => Promise<string | null>) => {
    setBusy(doing);
    // What the kit will be shown with comes while it is read.
    void loadViewport();
    try {
      const path = await work();
      if (!path) return;
      // The kit is read while its page comes.
      const kit = /^\/kit\/([^/]+)/.exec(path)?.[1];
      if (kit) void openKit(kit);
      // A kit fills its window: scrolling to its top would only lay it out once more.
      void go(path, { scroll: false });
    } catch (error) {
      notifyError(error);
    } finally {
      setBusy('');
    }
  };
  const takeFiles = (files: File[]) =>
    attempt('Opening…', async () => {
      const archive = files.find(isArchive);
      if (archive) return colorView(await openArchive(archive.name, new Uint8Array(await archive.arrayBuffer())));
      const model = files.find((f) => isModelFile(f.name));
      if (!model) {
        notify(`${files[0]?.name ?? 'This'}: drop models (.obj, .glb, .gltf, .ply, .stl) or a kit archive.`, { isError: true });
        return null;
      }
      const id = await makeKit(
        freeName(
          model.name.replace(/\.[^.]+$/, ''),
          (kits ?? []).map((k) => k.name),
        ),
      );
      await openKit(id);
      void importFiles(files).then(
        (isPlain) => isPlain && useEditor.getState().state.kit.id === id && toWhereItGoesOn(true, id, (to) => void go(to)),
      );
      return `/kit/${id}/gather`;
    });
  const demo = () => attempt('Opening the demo kit…', async () => colorView(await openDemo()));
  const fresh = () =>
    attempt(
      '',
      async () =>
        `/kit/${await makeKit(
          freeName(
            'New kit',
            (kits ?? []).map((k) => k.name),
          ),
        )}/gather`,
    );

  return (
    <div
      className="flex min-h-screen flex-col"
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        void droppedFiles(e.dataTransfer).then((files) => (files.length ? takeFiles(files) : undefined));
      }}
    >
      <HelpKey />
      <header className="flex h-[46px] items-center gap-5 border-b border-ink px-4">
        <Mark />
        <span className="text-[15px] font-bold" style={{ fontStretch: '112%' }}>
          Oligochrome
        </span>
        <span className="text-[#444]">Color low-poly models with a tiny shared texture</span>
      </header>
      <main className="mx-auto w-full max-w-[1120px] flex-1 px-6 pt-10 pb-16">
        {found === 'refused' ? (
          <NoStorage />
        ) : kits === undefined ? null : kits.length === 0 ? (
          <Invitation onDemo={demo} onChoose={() => chooser.current?.click()} onFresh={fresh} busy={busy} />
        ) : (
          <>
            <div className="mb-6 flex items-center gap-2">
              <h1 className="mr-auto text-[26px] font-bold" style={{ fontStretch: '108%' }}>
                Kits
              </h1>
              {busy && <Busy doing={busy} />}
              <Button kind="bare" onClick={demo}>
                Open the demo kit afresh
              </Button>
              <Button onClick={() => chooser.current?.click()}>Open files</Button>
              <Button kind="solid" onClick={fresh}>
                New kit
              </Button>
            </div>
            <ul className={`grid gap-5 ${kits.length > 6 ? 'grid-cols-3' : kits.length > 1 ? 'grid-cols-2' : ''}`}>
              {kits.map((kit) => (
                <KitCard key={kit.id} kit={kit} names={kits.map((k) => k.name)} />
              ))}
            </ul>
            <p className="mt-8 text-quiet">Kits are kept in this browser. Drop a model or a kit archive here to begin another.</p>
          </>
        )}
      </main>
      <input
        ref={chooser}
        type="file"
        multiple
        hidden
        aria-label="Open models or an archive"
        accept=".obj,.mtl,.glb,.gltf,.bin,.ply,.stl,.png,.jpg,.jpeg,.webp,.zip"
        onChange={(e) => {
          const files = [...(e.target.files ?? [])];
          e.target.value = '';
          if (files.length) void takeFiles(files);
        }}
      />
    </div>
  );
}

function Invitation({ onDemo, onChoose, onFresh, busy }: { onDemo: () => void; onChoose: () => void; onFresh: () => void; busy: string }) {
  return (
    <div className="pt-2">
      <h1 className="text-[44px] leading-[1.06] font-bold" style={{ fontStretch: '112%' }}>
        Few colors, many models.
      </h1>
      <p className="mt-4 max-w-[620px] text-[16px]">
        Pick faces, pick a color. Oligochrome seats the faces on one tiny texture that all models of your game share: no painting, no
        unwrapping, no seams.
      </p>
      <div className="mt-7 flex flex-wrap gap-3">
        <Button kind="solid" className="min-h-11 px-5 text-[15px]" onClick={onDemo} disabled={Boolean(busy)}>
          {busy || 'Open the demo kit'}
        </Button>
        <Button className="min-h-11 px-5 text-[15px]" onClick={onChoose}>
          Open a model
        </Button>
        <Button kind="bare" className="min-h-11 px-5 text-[15px]" onClick={onFresh}>
          Begin an empty kit
        </Button>
        {busy && (
          <Button kind="bare" className="min-h-11 px-5 text-[15px]" onClick={cancelOpening}>
            Cancel
          </Button>
        )}
      </div>
      <figure className="mt-9 border border-ink bg-surround">
        {/* eslint-disable-next-line @next/next/no-img-element */}
        <img
          src="/demo/line-up.png"
          alt="The demo kit’s ten models, all colored but the crab pots: light tower, cottage, jetty, buoy, fog bell, crab pots, tide gauge, rocks, notice board and a seal that is painted."
          className="h-auto w-full px-4 pt-6 pb-5"
        />
        <figcaption className="flex justify-between border-t border-ink bg-paper px-4 py-2 text-[12px] text-quiet">
          <span>Brindle Skerry, the demo kit, on a texture of 32 × 32 texels. The crab pots are left for you.</span>
          <span>Or drop .obj, .glb, .gltf, .ply, .stl or a kit archive anywhere. Nothing leaves this computer.</span>
        </figcaption>
      </figure>
    </div>
  );
}

const colorView = (kit: string | null) => kit && `/kit/${kit}/color`;

function Busy({ doing }: { doing: string }) {
  return (
    <span role="status" className="mr-3 flex items-center gap-2 text-quiet">
      {doing}
      <Button kind="bare" onClick={cancelOpening}>
        Cancel
      </Button>
    </span>
  );
}

function NoStorage() {
  return (
    <div role="alert" className="max-w-[560px] pt-2">
      <h1 className="text-[26px] font-bold">This browser lets no site keep anything.</h1>
      <p className="mt-3">
        Kits are kept in the storage of the browser, and it refused that: in a private window, or where cookies and site data are blocked.
        Allow site data for this address, or open it in an ordinary window, and reload.
      </p>
      <p className="mt-2 text-quiet">The headless command works without a browser; kits that were exported as archives are not touched.</p>
    </div>
  );
}

function KitCard({ kit, names }: { kit: KitEntry; names: string[] }) {
  const [isRenaming, setRenaming] = useState(false);
  const tally = kit.models ? kit.portrait?.tally : undefined;
  const remove = async () => {
    await binKit(kit.id);
    notify(`${kit.name} is in the bin.`, { action: { label: 'Undo', run: () => void unbinKit(kit.id) } });
  };
  return (
    <li className="group relative border border-hairline bg-white hover:border-ink">
      <ViewLink href={`/kit/${kit.id}/${kit.models ? 'color' : 'gather'}`} aria-label={`Open ${kit.name}`} className="block">
        <KitPicture bytes={kit.portrait?.bytes} />
      </ViewLink>
      <div className="flex items-center gap-4 py-3 pr-2 pl-3">
        <SheetOfKit kit={kit} />
        <div className="min-w-0 flex-1">
          {isRenaming ? (
            <Rename
              name={kit.name}
              label="Kit name"
              onDone={(name) => {
                setRenaming(false);
                if (name) renameKit(kit.id, name).catch(notifyError);
              }}
            />
          ) : (
            <p className="truncate font-bold">{kit.name}</p>
          )}
          <p className="text-[12px] text-quiet">
            {count(kit.models, 'model')} on {kit.sheet ?? 'a sheet'}
            {tally && tally.sheetBytes > 0 && `, ${bytes(tally.sheetBytes)}`},{' '}
            {new Date(kit.updated).toLocaleDateString('en', { day: 'numeric', month: 'long' })}
          </p>
          {tally && (
            <ul aria-label={`Tally of ${kit.name}`} className="mt-1 flex flex-wrap gap-x-3 text-[12px] text-[#444]">
              <li>
                <strong className="text-ink">{number(tally.drawCalls)}</strong> {tally.drawCalls === 1 ? 'draw call' : 'draw calls'}
                {tally.whenColored !== tally.drawCalls && (
                  <>
                    {' → '}
                    <strong className="text-ink">{number(tally.whenColored)}</strong>
                    <span className="sr-only"> when all is colored</span>
                  </>
                )}
              </li>
              <li>
                <strong className="text-ink">{number(tally.colors)}</strong> {tally.colors === 1 ? 'color' : 'colors'}
              </li>
              <li>
                <strong className="text-ink">{number(tally.uncolored)}</strong> uncolored
              </li>
            </ul>
          )}
        </div>
        <Menu
          label={`Actions for ${kit.name}`}
          className="flex h-8 w-8 items-center justify-center hover:bg-wash"
          trigger={<MoreHorizontal size={16} aria-hidden />}
          items={[
            { label: 'Rename', run: () => setTimeout(() => setRenaming(true)) },
            { label: 'Duplicate', run: () => void duplicateKit(kit.id, freeName(`${kit.name} copy`, names)).catch(notifyError) },
            'line',
            { label: 'Remove', run: () => void remove(), hint: 'undoable' },
          ]}
        />
      </div>
    </li>
  );
}
