import { expose } from 'comlink';

/** The longer side of a picture that is kept, in dots, and how much of it JPEG keeps. */
const SIDE = 1200;
const QUALITY = 0.85;

const pictureThread = {
  /**
   * A picture as it is kept: upright, as the camera held it, at most 1,200 dots wide and high, on white.
   * @param turned by a quarter to the right. @returns a JPEG, or `null` where the file is no picture
   */
  async made(file: Blob, turned: boolean): Promise<Blob | null> {
    const picture = await createImageBitmap(file, { imageOrientation: 'from-image' }).catch(() => null);
    if (!picture) return null;
    const scale = Math.min(1, SIDE / picture.width, SIDE / picture.height);
    const width = Math.max(1, Math.round(picture.width * scale));
    const height = Math.max(1, Math.round(picture.height * scale));
    const canvas = turned ? new OffscreenCanvas(height, width) : new OffscreenCanvas(width, height);
    const context = canvas.getContext('2d');
    if (!context) return null;
    context.fillStyle = '#fff';
    context.fillRect(0, 0, canvas.width, canvas.height);
    if (turned) {
      context.translate(height, 0);
      context.rotate(Math.PI / 2);
    }
    context.drawImage(picture, 0, 0, width, height);
    return canvas.convertToBlob({ type: 'image/jpeg', quality: QUALITY });
  },
};

export type PictureThread = typeof pictureThread;
expose(pictureThread);
