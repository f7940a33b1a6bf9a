export * from "./band";
export * from "./classify";
export * from "./classifyBlock";
export * from "./nextFloat";
export * from "./ruleChange";
export * from "./setBound";
export * from "./steady";
export * from "./why";
