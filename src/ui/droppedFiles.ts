/** All files of a drop, those in folders too. */
export async function droppedFiles(transfer: DataTransfer): Promise<File[]> {
  const entries = [...transfer.items].flatMap((item) => item.webkitGetAsEntry?.() ?? []);
  if (!entries.length) return [...transfer.files];
  const out: File[] = [];
  for (const entry of entries) await collect(entry, out);
  return out;
}

/** A folder of more files than this is no model. */
const mostFiles = 500;

async function collect(entry: FileSystemEntry, out: File[]): Promise<void> {
  if (out.length >= mostFiles) return;
  if (entry.isFile) {
    out.push(await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject)));
    return;
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (!some.length) return;
    for (const child of some) await collect(child, out);
  }
}
