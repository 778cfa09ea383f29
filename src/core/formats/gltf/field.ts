import type { Document, mat4 } from '@gltf-transform/core';
import { fieldOfTriangles, type FieldShape } from '../../ground/field';
import { FormatFault } from '../limits';

/** Most triangles of a ground that is brought in. */
const MOST_TRIANGLES = 2_000_000;

/** All triangles of a glTF document's scene as a height field. Throws FormatFault where there are none to walk on, or too many. */
export function fieldOfGltf(doc: Document): FieldShape {
  const points: number[] = [],
    corners: number[] = [];
  const scene = doc.getRoot().getDefaultScene() ?? doc.getRoot().listScenes()[0];
  scene?.traverse((node) => {
    const m = node.getWorldMatrix();
    for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
      const places = primitive.getAttribute('POSITION');
      if (!places || primitive.getMode() !== 4) continue;
      const first = points.length / 3;
      const at: number[] = [0, 0, 0];
      for (let i = 0; i < places.getCount(); i++) {
        places.getElement(i, at);
        points.push(...transformed(m, at));
      }
      const indices = primitive.getIndices();
      const count = indices ? indices.getCount() : places.getCount();
      if ((corners.length + count) / 3 > MOST_TRIANGLES) throw new FormatFault(`more than ${MOST_TRIANGLES} triangles`);
      for (let i = 0; i < count; i++) corners.push(first + (indices ? indices.getScalar(i) : i));
    }
  });
  if (corners.length === 0) throw new FormatFault('there are no triangles in it');
  if (!points.every(Number.isFinite)) throw new FormatFault('a vertex lies nowhere');
  try {
    return fieldOfTriangles(points, corners);
  } catch (error) {
    throw new FormatFault(error instanceof Error ? error.message : String(error));
  }
}

const transformed = (m: mat4, [x, y, z]: readonly number[]): [number, number, number] => [
  m[0] * x! + m[4] * y! + m[8] * z! + m[12],
  m[1] * x! + m[5] * y! + m[9] * z! + m[13],
  m[2] * x! + m[6] * y! + m[10] * z! + m[14],
];
