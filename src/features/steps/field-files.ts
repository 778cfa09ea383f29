import { fieldOfPixels, MADE_SIDE, type FieldShape } from '@/core/ground/field';

const MOST_BYTES = 40_000_000;

/** A GLB, or a greyscale picture, as a height field. Throws with words for what cannot be read. */
export async function readField(file: File): Promise<FieldShape> {
  if (file.size > MOST_BYTES) throw new Error(`${file.name} has ${file.size} bytes; a height field has at most ${MOST_BYTES}.`);
  if (/\.glb$/i.test(file.name)) {
    const [{ decodeGlb }, { fieldOfGltf }] = await Promise.all([import('@/core/formats/gltf/bytes'), import('@/core/formats/gltf/field')]);
    try {
      return fieldOfGltf(await decodeGlb(new Uint8Array(await file.arrayBuffer())));
    } catch (error) {
      throw new Error(`${file.name}: ${error instanceof Error ? error.message : String(error)}. The ground is as it was.`, { cause: error });
    }
  }
  const picture = await createImageBitmap(file).catch((cause: unknown) => {
    throw new Error(`${file.name} is no image that can be read. The ground is as it was.`, { cause });
  });
  const scale = Math.min(1, MADE_SIDE / Math.max(picture.width, picture.height));
  const columns = Math.max(2, Math.round(picture.width * scale)),
    rows = Math.max(2, Math.round(picture.height * scale));
  const canvas = new OffscreenCanvas(columns, rows);
  const pen = canvas.getContext('2d', { willReadFrequently: true })!;
  pen.drawImage(picture, 0, 0, columns, rows);
  picture.close();
  const { data } = pen.getImageData(0, 0, columns, rows);
  return fieldOfPixels(data, columns, rows);
}
