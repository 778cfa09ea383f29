/** What the server said against something, in words. */
export async function refusal(response: Response): Promise<Error> {
  const told = (await response.json().catch(() => null)) as { detail?: string } | null;
  return new Error(told?.detail ?? `the server answered ${response.status}`);
}

/** Fetches a file that was kept, by the hash of its bytes. */
export async function fetchFile(hash: string): Promise<Uint8Array<ArrayBuffer>> {
  const response = await fetch(`/api/files/${hash}`);
  if (!response.ok) throw await refusal(response);
  return new Uint8Array(await response.arrayBuffer());
}
