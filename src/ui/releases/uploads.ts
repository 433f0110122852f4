import { create } from 'zustand';
import { sentenceOf } from '../../core/sentence-of';
import { send, upload } from '../api';

export interface UploadRow {
  key: number;
  releaseId: string;
  /** The track that gets its next mix; null for a new track. */
  trackId: string | null;
  fileName: string;
  share: number;
  /** What went wrong, in a sentence; null while it goes on. */
  problem: string | null;
  cancel(): void;
}

/** A file, and what its track is to be called; left out: by the server. */
export interface NamedFile {
  file: File;
  title?: string;
}

interface UploadStore {
  rows: UploadRow[];
  /** Files that the server has taken so far: who shows tracks asks again when it grows. */
  taken: number;
  /** Sends files one after another: each as a new track of a release, or as the next mix of one of its tracks. */
  send(releaseId: string, files: NamedFile[], trackId?: string): Promise<void>;
  dismiss(key: number): void;
}

let nextKey = 1;

/** Uploads under way, kept while one moves between pages. */
export const useUploads = create<UploadStore>((set, get) => {
  const patch = (key: number, change: Partial<UploadRow>) =>
    set(({ rows }) => ({ rows: rows.map((row) => (row.key === key ? { ...row, ...change } : row)) }));
  const dismiss = (key: number) => set(({ rows }) => ({ rows: rows.filter((row) => row.key !== key) }));
  return {
    rows: [],
    taken: 0,
    dismiss,
    async send(releaseId, files, trackId) {
      const queue = files.map((each) => ({ ...each, key: nextKey++ }));
      const row = ({ file, key }: (typeof queue)[number]): UploadRow => ({
        key,
        releaseId,
        trackId: trackId ?? null,
        fileName: file.name,
        share: 0,
        problem: null,
        cancel: () => dismiss(key),
      });
      set(({ rows }) => ({ rows: [...rows, ...queue.map(row)] }));
      for (const { file, title, key } of queue) {
        if (!get().rows.some((waiting) => waiting.key === key)) continue;
        const owner = trackId ? `tracks/${trackId}` : `releases/${releaseId}`;
        const sending = upload(file, (share) => patch(key, { share }));
        patch(key, { cancel: sending.cancel });
        try {
          const body = { upload: await sending.done, name: file.name, title };
          await send(`/api/${owner}/mixes`, { method: 'POST', body });
          dismiss(key);
          set(({ taken }) => ({ taken: taken + 1 }));
        } catch (error) {
          patch(key, { problem: `${file.name}: ${sentenceOf(error)}` });
        }
      }
    },
  };
});
