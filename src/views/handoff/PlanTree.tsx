import type { PlannedFile } from '@/core/files/handoff/tree';

interface Row {
  depth: number;
  name: string;
  file?: PlannedFile;
}

/** Folders and files as they will lie, sorted; what cannot be written says why. */
export function PlanTree({ files }: { files: readonly PlannedFile[] }) {
  return (
    <ul aria-label="Files" tabIndex={0} className="max-h-[280px] overflow-y-auto text-[12.5px] leading-[1.7]">
      {rowsOf(files).map(({ depth, name, file }, i) => (
        <li key={i} style={{ paddingLeft: depth * 18 }} className={file ? '' : 'font-bold'}>
          <span className={file?.beside ? 'text-[#555]' : ''}>{name}</span>
          {file?.problem && <strong className="ml-2 border border-ink px-1.5 text-[12px]">{file.problem}</strong>}
        </li>
      ))}
    </ul>
  );
}

function rowsOf(files: readonly PlannedFile[]): Row[] {
  const rows: Row[] = [];
  let open: string[] = [];
  for (const file of [...files].sort((a, b) => (a.path < b.path ? -1 : a.path > b.path ? 1 : 0))) {
    const folders = file.path.split('/');
    const name = folders.pop()!;
    const same = folders.findIndex((f, i) => open[i] !== f);
    for (let i = same < 0 ? folders.length : same; i < folders.length; i++) rows.push({ depth: i, name: `${folders[i]}/` });
    open = folders;
    rows.push({ depth: folders.length, name, file });
  }
  return rows;
}
