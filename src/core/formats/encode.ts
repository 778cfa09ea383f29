import { strToU8 } from 'fflate';
import { encodeBvh } from './bvh/encode';
import { toBvh } from './bvh/from-clip';
import type { ClipDocument } from './clip-info';
import type { ExportFormat } from './format';
import { encodeGlb } from './gltf/bytes';

const ENCODERS: { readonly [K in ExportFormat['id']]: (document: ClipDocument) => Promise<Uint8Array> } = {
  glb: (document) => encodeGlb([document]),
  bvh: async (document) => strToU8(encodeBvh(toBvh(document))),
};

/** The bytes of a clip in a format. */
export const encodeClip = (format: ExportFormat, document: ClipDocument): Promise<Uint8Array> => ENCODERS[format.id](document);
