/** The part of the WebAssembly interface that is used; Node has it, its types do not name it. */
declare namespace WebAssembly {
  class Module {
    private constructor()
  }
  function compile(bytes: Uint8Array): Promise<Module>
}
