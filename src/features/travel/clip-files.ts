import { refusal } from '@/workers/files';

/** Size of the parts a file is sent in, bytes; the server keeps them as they come. */
const PART_BYTES = 2 * 1024 * 1024;

/** SHA-256 of bytes, hex. */
export async function hashOf(bytes: Uint8Array<ArrayBuffer>): Promise<string> {
  const sum = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes));
  return Array.from(sum, (b) => b.toString(16).padStart(2, '0')).join('');
}

/** Keeps a file on the server, part by part; tells how much (0 to 1) is there. */
export async function keepFile(hash: string, bytes: Uint8Array<ArrayBuffer>, tell: (share: number) => void): Promise<void> {
  const parts = Math.ceil(bytes.length / PART_BYTES);
  for (let part = 0; part < parts; part++) {
    const response = await fetch(`/api/files/${hash}/${part}?size=${bytes.length}`, {
      method: 'PUT',
      headers: { 'content-type': 'application/octet-stream' },
      body: bytes.subarray(part * PART_BYTES, (part + 1) * PART_BYTES),
    });
    if (!response.ok) throw await refusal(response);
    tell((part + 1) / parts);
    // The same file may be there already.
    if (((await response.json()) as { whole: boolean }).whole) return;
  }
}
