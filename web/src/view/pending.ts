/** Work that was handed to the graphics card and is not done yet. */
export class Pending {
  private fence: WebGLSync | null;

  constructor(private gl: WebGL2RenderingContext) {
    this.fence = gl.fenceSync(gl.SYNC_GPU_COMMANDS_COMPLETE, 0);
    gl.flush();
  }

  busy(): boolean {
    const { gl, fence } = this;
    if (!fence || gl.getSyncParameter(fence, gl.SYNC_STATUS) === gl.UNSIGNALED) return !!fence;
    gl.deleteSync(fence);
    this.fence = null;
    return false;
  }
}
