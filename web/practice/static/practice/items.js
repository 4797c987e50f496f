// The order of attempts in a home session: every note of a step, once a repetition.

export function itemsOf(bundle) {
  return bundle.steps.flatMap((step) => {
    const own = [];
    for (let repetition = 1; repetition <= step.repetitions; repetition++) {
      step.targets.forEach((target, place) => own.push({ step, target, place, repetition, lastOfStep: false }));
    }
    own.at(-1).lastOfStep = true;
    return own;
  });
}

export function elapsedOf(bundle) {
  return bundle.receivedAt === null ? null : Math.round(performance.now() - bundle.receivedAt);
}
