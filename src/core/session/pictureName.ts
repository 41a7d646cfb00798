/** What a picture was called before it was kept: "Harbour.mp4" of "/api/sessions/s/picture/mwwy1jbu-Harbour.mp4". */
export function pictureName(file: string): string {
  const name = decodeURIComponent(file.split('/').at(-1) ?? file);
  return file.startsWith('/api/') ? name.replace(/^[a-z0-9]+-/, '') : name;
}
