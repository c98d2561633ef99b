/**
 * Stands in for packages that resize pictures with code made at run time, which our policy forbids: what we
 * use of the glTF functions never comes here.
 */
const refuse = (): never => {
  throw new Error('Pictures are not resized here.');
};

export { refuse as getPixels, refuse as savePixels, refuse as lanczos2, refuse as lanczos3 };
export default refuse;
