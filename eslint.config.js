// The page draws, records and keeps: plain modules, no framework; these rules find what is wrong, not taste.
import js from "@eslint/js";

const browser = [
  "AudioContext", "AudioWorkletNode", "Blob", "FormData", "Response", "URL", "WebSocket", "caches", "clearInterval",
  "clearTimeout", "crypto", "document", "fetch", "location", "navigator", "performance", "requestAnimationFrame",
  "sessionStorage", "localStorage", "setInterval", "setTimeout", "window", "devicePixelRatio", "getComputedStyle",
  "confirm", "console", "matchMedia", "CSS", "Event", "HTMLElement", "TextEncoder", "URLSearchParams", "history",
  "indexedDB", "getSelection", "structuredClone", "XMLSerializer", "DOMParser", "addEventListener", "cancelAnimationFrame",
  "OfflineAudioContext", "AbortSignal", "GainNode", "OscillatorNode", "AudioBufferSourceNode",
  "MediaStreamAudioDestinationNode", "MediaStreamAudioSourceNode", "IDBKeyRange", "DOMPoint",
];
const django = ["gettext", "ngettext", "interpolate"];
const named = (names) => Object.fromEntries(names.map((name) => [name, "readonly"]));

export default [
  { ignores: ["web/design/static/generated/", "node_modules/", ".venv/", ".run/"] },
  js.configs.recommended,
  {
    languageOptions: { ecmaVersion: 2023, sourceType: "module", globals: named([...browser, ...django]) },
    linterOptions: { reportUnusedDisableDirectives: true },
    rules: {
      eqeqeq: ["error", "always"],
      "no-var": "error",
      "prefer-const": "error",
      "no-shadow": "error",
      "no-unused-expressions": "error",
    },
  },
  {
    files: ["**/service-worker.js", "**/pcm-worklet.js"],
    languageOptions: { globals: named(["self", "registerProcessor", "AudioWorkletProcessor", "currentTime", "sampleRate"]) },
  },
  { files: ["tests/js/**"], languageOptions: { globals: named(["globalThis", "process"]) } },
];
