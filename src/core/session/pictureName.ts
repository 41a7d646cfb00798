/** What a picture was called before it was kept: "Harbour.mp4" of "/api/sessions/s/picture/mwwy1jbu-Harbour.mp4". */
export function pictureName(file: string): string {
  const last = file.split('/').at(-1) ?? file;
  let name = last;
  try {
    name = decodeURIComponent(last);
  } catch {
    // An address that nobody wrote as one is shown as it is.
  }
  return file.startsWith('/api/') ? name.replace(/^[a-z0-9]+-/, '') : name;
}
