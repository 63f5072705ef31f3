/** Hands a text, or bytes, to the browser to be kept as a file of this name. */
export function saveFile(name: string, type: string, content: string | Uint8Array): void {
  const url = URL.createObjectURL(new Blob([content as BlobPart], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  // The browser has taken the bytes by the next turn; kept longer they would stay in memory.
  setTimeout(() => URL.revokeObjectURL(url), 0);
}

/** A name as a file may have it on any machine. */
export const fileName = (name: string, ending: string): string =>
  `${
    name
      .replace(/[^\p{L}\p{N} _-]+/gu, ' ')
      .trim()
      .replace(/\s+/g, '-') || 'design'
  }.${ending}`;
