import { useEffect, useState } from 'react';
import { useEvaluation } from './EvaluationProvider.js';
import type { AnswerTo, PieceBuild, Question } from './protocol.js';

/**
 * What the workers say to a question about a piece, asked again whenever the piece is another or the question is. While
 * one is on its way the last answer stays, and of questions asked meanwhile only the newest goes out.
 */
export function useAnswer<Q extends Question>(
  build: PieceBuild | undefined,
  question: Q | null,
): AnswerTo<Q['what']> | undefined {
  const evaluation = useEvaluation();
  const [answers] = useState(() => new LatestOnly<Q>());
  const [answer, setAnswer] = useState<{ of: string; value: AnswerTo<Q['what']> } | undefined>();
  const piece = build?.piece;
  const key = question && JSON.stringify(question);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the question by its text, the piece by its build
  useEffect(() => {
    if (!piece || !question) return;
    answers.ask(
      () => evaluation.ask(piece, question),
      (value) => setAnswer({ of: piece, value }),
    );
  }, [evaluation, answers, build, key]);
  useEffect(() => () => answers.close(), [answers]);
  return answer && answer.of === piece ? answer.value : undefined;
}

/** Lets one question out at a time; of those that come meanwhile, the last. */
class LatestOnly<Q extends Question> {
  private busy = false;
  private open = true;
  private next: (() => void) | undefined;

  ask(question: () => Promise<AnswerTo<Q['what']>>, take: (value: AnswerTo<Q['what']>) => void): void {
    this.open = true;
    if (this.busy) {
      this.next = () => this.ask(question, take);
      return;
    }
    this.busy = true;
    question()
      // a piece that is made elsewhere by now is asked about again when it arrives
      .then(
        (value) => this.open && take(value),
        () => {},
      )
      .finally(() => {
        this.busy = false;
        const { next } = this;
        this.next = undefined;
        if (this.open) next?.();
      });
  }

  close(): void {
    this.open = false;
    this.next = undefined;
  }
}
