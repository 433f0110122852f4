import { route } from '@/server/http/route';
import { removeImage } from '@/server/images/images';

export const DELETE = route(({ account, params }) => removeImage(account.id, params.imageId));
