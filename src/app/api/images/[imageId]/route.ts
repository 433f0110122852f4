import { route } from '@/server/http/route';
import { removeImage } from '@/server/images/images';

export const DELETE = route(({ db, account, params }) => removeImage(db, account.id, params.imageId));
