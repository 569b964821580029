import { found, type Finding } from '../checks/finding.js';
import type { JudgedPage } from './sight.js';

/** Below this the picture of a shared link is drawn small, or blurred (1.91 : 1, as the large networks say). */
export const SHARED_AT_LEAST = { width: 1_200, height: 630 };

/** What is known of a picture; a vector has no size of its own, and is shown by nobody who shares. */
export interface PictureSize {
  readonly width: number;
  readonly height: number;
  readonly isVector: boolean;
}

/** The picture that stands where a page is shared: its own, else the first on it, else that of its site. */
export function share({ sight, sitePicture }: JudgedPage, sizeOf: (id: number) => PictureSize | undefined): Finding[] {
  const id = [...sight.pictures, ...(sitePicture === null ? [] : [sitePicture])].find((one) => {
    const size = sizeOf(one);
    return size && !size.isVector;
  });
  const size = id === undefined ? undefined : sizeOf(id);
  if (!size) return [found('share', 'worth-fixing', 'share-missing', {}, null)];
  const { width, height } = size;
  return width < SHARED_AT_LEAST.width || height < SHARED_AT_LEAST.height
    ? [found('share', 'worth-fixing', 'share-small', { width, height }, null)]
    : [];
}
