import fc from 'fast-check';

// one that fails is made smaller for minutes: then it tells what it has
fc.configureGlobal({ interruptAfterTimeLimit: 200_000 });
