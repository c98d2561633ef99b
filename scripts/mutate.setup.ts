import fc from 'fast-check';

// What fails is not made smaller: it is enough to know that it fails.
fc.configureGlobal({ endOnFailure: true });
