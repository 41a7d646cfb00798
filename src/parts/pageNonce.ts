import { setNonce } from 'get-nonce';

let known: string | undefined;

/** The nonce of this page's policy, for packages that bring styles of their own. */
export function pageNonce(): string | undefined {
  known ??=
    typeof document === 'undefined' ? undefined : document.querySelector<HTMLScriptElement>('script[nonce]')?.nonce;
  return known;
}

/** Tells it to the scroll lock of menus and dialogs. */
export function shareNonce(): void {
  const nonce = pageNonce();
  if (nonce) setNonce(nonce);
}
