/** The package has types for it, but not at the address that Node can import. */
declare module "comlink/dist/esm/node-adapter.mjs" {
  export { default } from "comlink/dist/esm/node-adapter";
}
