// What the server sends. Dials are declared by the server; nothing here describes one.

export type * from "./types/dials";
export type * from "./types/frames";
export type * from "./types/shelf";
export type * from "./types/shot";
export type * from "./types/strip";
export type * from "./types/work";
