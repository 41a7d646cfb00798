declare module 'plotly.js-basic-dist-min' {
  export function react(target: HTMLElement, data: object[], layout: object, config?: object): Promise<void>;
  export function purge(target: HTMLElement): void;
}
