'use client';
/** What stands around the view stays, so that another one can be opened. */
export { ViewFailed as default } from '@/views/shell/ViewFailed';
