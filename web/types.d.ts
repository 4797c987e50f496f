// What the browser, the worklet and Django's catalogue of words give the scripts; read by `tsc` only.

declare function gettext(words: string): string;
declare function ngettext(one: string, more: string, count: number): string;
declare function interpolate(pattern: string, values: unknown[] | Record<string, unknown>, named?: boolean): string;

declare const sampleRate: number;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}
declare function registerProcessor(name: string, processor: unknown): void;

/** Anything of a page that is found by its id: a control, a text, a picture. */
type OnPage = HTMLElement & {
  value: string;
  disabled: boolean;
  checked: boolean;
  name: string;
  type: string;
  ownerSVGElement: SVGSVGElement;
  showModal(): void;
  returnValue: string;
  selectionStart: number;
  selectionEnd: number;
  select(): void;
  getContext(kind: "2d"): CanvasRenderingContext2D;
  width: number;
  height: number;
  elements: HTMLFormControlsCollection & Record<string, HTMLInputElement>;
};

/** What a page is asked for is there: its template has it, and a missing one fails in the browser. */
interface Document {
  getElementById(id: string): OnPage;
}
interface ParentNode {
  querySelector(selectors: string): OnPage;
  querySelectorAll(selectors: string): NodeListOf<OnPage>;
}
interface Element {
  closest(selectors: string): OnPage;
}
