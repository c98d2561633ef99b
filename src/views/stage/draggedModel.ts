/** The kind of what is dragged out of the list of models onto the stage. */
export const draggedModel = 'application/x-oligochrome-model';
