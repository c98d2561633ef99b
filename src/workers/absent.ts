/** Stands in for modules of Node that a browser does not have. */
const absent = {};

export default absent;
