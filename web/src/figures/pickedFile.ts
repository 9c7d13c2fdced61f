/** A file as it was given, which can be read again as it is now. */
export interface Given {
  name: string;
  read: () => Promise<File>;
}

/** What browsers that hand out files for longer have (File System Access, WICG). */
interface FileHandle {
  kind: "file" | "directory";
  name: string;
  getFile: () => Promise<File>;
}
type Picker = (options: { multiple: boolean }) => Promise<FileHandle[]>;
type HandingItem = DataTransferItem & { getAsFileSystemHandle?: () => Promise<FileHandle | null> };

export function ofFile(file: File): Given {
  return { name: file.name, read: () => Promise.resolve(file) };
}

function ofHandle(handle: FileHandle): Given {
  return { name: handle.name, read: () => handle.getFile() };
}

/** Files to be chosen in the browser's own way; null where it has none that lets them be read again. */
export function chosen(): Promise<Given[]> | null {
  const pick = (window as { showOpenFilePicker?: Picker }).showOpenFilePicker;
  if (!pick) return null;
  return pick({ multiple: true }).then(
    (handles) => handles.map(ofHandle),
    // Nothing was chosen.
    () => [],
  );
}

/** The files that were dropped, to be read again where the browser lets them. */
export async function dropped(transfer: DataTransfer): Promise<Given[]> {
  const files = [...transfer.files];
  const items = [...transfer.items].filter((item) => item.kind === "file") as HandingItem[];
  // All of them are asked for before any is waited for: they are gone once the drop is over.
  const handles = await Promise.all(items.map(handleOf));
  return files.map((file, place) => {
    const handle = handles[place];
    return handle?.kind === "file" ? ofHandle(handle) : ofFile(file);
  });
}

async function handleOf(item: HandingItem): Promise<FileHandle | null> {
  try {
    return (await item.getAsFileSystemHandle?.()) ?? null;
  } catch {
    return null;
  }
}

/** The file as it is now; null where it was given by another page, or has changed and cannot be read any more. */
export async function again(given: Given | undefined): Promise<File | null> {
  if (!given) return null;
  try {
    const file = await given.read();
    await file.slice(0, 1).arrayBuffer();
    return file;
  } catch {
    return null;
  }
}
