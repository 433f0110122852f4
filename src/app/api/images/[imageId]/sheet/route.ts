import { route } from '@/server/http/route';
import { imageSheet } from '@/server/images/image-sheets';
import { finishedImage } from '@/server/images/images';

/** What comes with an image: its cue sheet, or its log in the form that is asked for. */
export const GET = route(async ({ db, request, account, params }) => {
  const { receipt } = await finishedImage(db, account.id, params.imageId);
  return imageSheet(receipt, new URL(request.url).searchParams.get('form') ?? 'cue');
});
