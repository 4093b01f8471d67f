declare module '@mediapipe/tasks-vision/vision_wasm_module_internal.js' {
  const factory: unknown;
  export default factory;
}
declare module '*.tflite?url' {
  const url: string;
  export default url;
}
declare module '*.task?url' {
  const url: string;
  export default url;
}
