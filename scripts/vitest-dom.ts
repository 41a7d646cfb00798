/** Adds what a browser has and jsdom has not, as far as parts and panels ask for it. */
export function likeBrowser(): void {
  Object.assign(globalThis, {
    matchMedia: (media: string) => ({
      ...{ matches: false, media },
      addEventListener: () => {},
      removeEventListener: () => {},
    }),
    ResizeObserver: class {
      observe(): void {}
      unobserve(): void {}
      disconnect(): void {}
    },
    IntersectionObserver: class {
      observe(): void {}
      unobserve(): void {}
      disconnect(): void {}
    },
  });
  Object.assign(Element.prototype, {
    hasPointerCapture: () => false,
    setPointerCapture: () => {},
    releasePointerCapture: () => {},
    scrollIntoView: () => {},
  });
  Blob.prototype.arrayBuffer ??= function (this: Blob) {
    return new Promise<ArrayBuffer>((resolve, reject) => {
      const reader = new FileReader();
      reader.onload = () => resolve(reader.result as ArrayBuffer);
      reader.onerror = () => reject(reader.error ?? new Error('it could not be read'));
      reader.readAsArrayBuffer(this);
    });
  };
}
