import { readFileSync } from 'node:fs';
import { imageSize } from 'image-size';
import type { Id3v2Tag, Mpeg4AppleTag, XiphComment } from 'node-taglib-sharp';
import {
  ByteVector,
  File,
  Id3v2Settings,
  Id3v2UserTextInformationFrame,
  Picture,
  PictureType,
  TagTypes,
  XiphPicture,
  type IPicture,
} from 'node-taglib-sharp';
import type { Format } from '../../core/deliver/format';
import type { Tags } from '../../core/deliver/tags';

// AIFF would get the tags of version 2.2 without it.
Id3v2Settings.defaultVersion = 4;
Id3v2Settings.forceDefaultVersion = true;

/** Whether a cover picture goes into files of a format: in front of the audio of a WAV it is in the way of what reads it. */
export function holdsCover(format: Format): boolean {
  return format !== 'WAV' && format !== 'Broadcast WAV';
}

/** What is written besides the common tags: where a format has a place for an EAN. */
function writeBarcode(file: File, barcode: string): void {
  const xiph = file.getTag(TagTypes.Xiph, false) as XiphComment | undefined;
  xiph?.setFieldAsStrings('BARCODE', barcode);
  // MP4 has no field for it, but fields that are named freely.
  const mp4 = file.getTag(TagTypes.Apple, false) as Mpeg4AppleTag | undefined;
  mp4?.setItunesStrings('copper-lane', 'BARCODE', barcode);
  const id3 = file.getTag(TagTypes.Id3v2, false) as Id3v2Tag | undefined;
  if (!id3) return;
  const frame = Id3v2UserTextInformationFrame.fromDescription('BARCODE');
  frame.text = [barcode];
  id3.addFrame(frame);
}

/**
 * Writes tags and a cover picture into a finished file; its samples stay as they are. The same tags give the same bytes. What
 * a format has no place for is left out: a cover in WAV.
 */
export function writeTags(path: string, format: Format, tags: Tags, cover: Cover | null): void {
  // The ending of its name says nothing here: files under way have another one.
  const file = File.createFromPath(path, MIME_TYPES[format]);
  try {
    const wave = !holdsCover(format);
    if (wave || format === 'AIFF' || format === 'MP3') file.getTag(TagTypes.Id3v2, true);
    // A RIFF INFO list has no encoding of its own: programs disagree about letters beyond ASCII.
    file.removeTags(wave ? TagTypes.RiffInfo | TagTypes.MovieId : TagTypes.Id3v1);
    const { tag } = file;
    tag.title = tags.title ?? '';
    tag.album = tags.album ?? '';
    tag.performers = tags.artist ? [tags.artist] : [];
    tag.albumArtists = tags.album_artist ? [tags.album_artist] : [];
    tag.composers = tags.composer ? [tags.composer] : [];
    tag.copyright = tags.copyright ?? '';
    tag.isrc = tags.isrc ?? '';
    tag.track = Number(tags.track ?? 0);
    tag.trackCount = Number(tags.tracks ?? 0);
    tag.year = Number(tags.date ?? 0);
    if (cover && !wave) {
      tag.pictures = [pictureOf(cover, format)];
    }
    if (tags.barcode) writeBarcode(file, tags.barcode);
    file.save();
  } finally {
    file.dispose();
  }
}

/** FLAC keeps the size and depth of a picture beside it; others leave that to whoever reads it. */
function pictureOf({ path, type }: Cover, format: Format): IPicture {
  const bytes = readFileSync(path);
  const picture = Picture.fromFullData(ByteVector.fromByteArray(bytes), PictureType.FrontCover, type, '');
  if (format !== 'FLAC') return picture;
  const { width, height } = imageSize(bytes);
  return Object.assign(XiphPicture.fromPicture(picture), { width, height, colorDepth: 24 });
}

/** A cover picture in a file. */
export interface Cover {
  path: string;
  /** MIME type: image/jpeg or image/png. */
  type: string;
}

const MIME_TYPES: Record<Format, string> = {
  ...{ WAV: 'taglib/wav', 'Broadcast WAV': 'taglib/wav', FLAC: 'taglib/flac', AIFF: 'taglib/aiff' },
  ...{ ALAC: 'taglib/m4a', MP3: 'taglib/mp3', AAC: 'taglib/m4a' },
};
