declare module '*.mjs' {
  export const importDirection: unknown;
  export const browserPaths: string[];
}
declare module '*.css';
declare module '@fontsource-variable/*';
