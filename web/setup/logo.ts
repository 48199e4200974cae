/** Dots that the usual receipt printer sets across; pictures are sets of eight. */
const DOTS = 384;
const HIGHEST = 240;
const EIGHT = 8;

/** A picture file as the PNG that printers take: at most 384 dots wide, both sides multiples of eight, on white. */
export async function logoFrom(file: File): Promise<string | null> {
  const picture = await createImageBitmap(file).catch(() => null);
  if (!picture) return null;
  const scale = Math.min(1, DOTS / picture.width, HIGHEST / picture.height);
  const canvas = document.createElement('canvas');
  canvas.width = Math.max(EIGHT, Math.floor((picture.width * scale) / EIGHT) * EIGHT);
  canvas.height = Math.max(EIGHT, Math.floor((picture.height * scale) / EIGHT) * EIGHT);
  const context = canvas.getContext('2d');
  if (!context) return null;
  context.fillStyle = '#fff';
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.drawImage(picture, 0, 0, canvas.width, canvas.height);
  return canvas.toDataURL('image/png');
}
