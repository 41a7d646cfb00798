// What is drawn many times a second is written where it changed only: words written anew are laid out and painted anew,
// also when they say the same, and a page at rest would keep the machine as busy as one that plays.

export function drawText(element: Element | null, text: string): void {
  if (element && element.textContent !== text) element.textContent = text;
}

export function drawAttribute(element: Element | null, name: string, value: string): void {
  if (element && element.getAttribute(name) !== value) element.setAttribute(name, value);
}
