import { fieldOfGrid, MADE_SIDE, type FieldShape } from '@/core/ground/field';

/** Longest side (m) and height (m from black to white) of a picture brought in; both are then changed by numbers. */
const PICTURE_M = 10;
const PICTURE_HEIGHT_M = 0.6;
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
    throw new Error(`${file.name} is no picture that can be read. The ground is as it was.`, { cause });
  });
  const scale = Math.min(1, MADE_SIDE / Math.max(picture.width, picture.height));
  const columns = Math.max(2, Math.round(picture.width * scale)),
    rows = Math.max(2, Math.round(picture.height * scale));
  const canvas = new OffscreenCanvas(columns, rows);
  const pen = canvas.getContext('2d', { willReadFrequently: true })!;
  pen.drawImage(picture, 0, 0, columns, rows);
  picture.close();
  const { data } = pen.getImageData(0, 0, columns, rows);
  const metre = PICTURE_M / Math.max(columns, rows);
  // The picture's lower edge is where the figure comes from.
  const grid = Float64Array.from({ length: columns * rows }, (_, i) => {
    const row = rows - 1 - Math.floor(i / columns),
      o = (row * columns + (i % columns)) * 4;
    return ((0.2126 * data[o]! + 0.7152 * data[o + 1]! + 0.0722 * data[o + 2]!) / 255) * PICTURE_HEIGHT_M;
  });
  return fieldOfGrid(grid, columns, rows, { x: 0, z: 0, length: rows * metre, breadth: columns * metre });
}
