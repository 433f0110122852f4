import { namesOf } from './naming';
import type { NamedFile } from './uploads';

/** Where a dropped file lay, as far as the browser tells. */
function pathOf(file: File & { path?: string; relativePath?: string }): string {
  return file.webkitRelativePath || file.relativePath || file.path || file.name;
}

/** Dropped files in the order of their tracks, with titles, and a title for the release. */
export function filesNamed(dropped: File[]): { release: string; files: NamedFile[] } {
  const { release, tracks } = namesOf(dropped, pathOf);
  return { release, files: tracks.map(({ item, title }) => ({ file: item, title })) };
}
