/** Whether pictures are drawn by the processor, with no graphics card to help: names that drivers give themselves. */
export function drawsInSoftware(gl: WebGLRenderingContext | WebGL2RenderingContext): boolean {
  const told = gl.getExtension("WEBGL_debug_renderer_info");
  const name = String(gl.getParameter(told ? told.UNMASKED_RENDERER_WEBGL : gl.RENDERER));
  return /swiftshader|llvmpipe|softpipe|software|basic render/i.test(name);
}
