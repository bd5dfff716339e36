import type { Answers, Question } from '@/core/formats/music';

/** Questions a file raises, each with its answers; what is done unasked is chosen already. */
export function QuestionList({
  questions,
  answers,
  name,
  onAnswer,
}: {
  readonly questions: readonly Question[];
  readonly answers: Answers;
  /** Tells the groups of one page apart. */
  readonly name: string;
  readonly onAnswer: (question: string, answer: string) => void;
}) {
  if (questions.length === 0) return null;
  return (
    <ul className="flex flex-col gap-2">
      {questions.map((question) => (
        <li key={question.id} className="border-l-4 border-question bg-question-wash px-3 py-2">
          <fieldset>
            <legend className="font-semibold">{question.finding.words}</legend>
            <div className="mt-1 flex flex-col gap-0.5">
              {question.answers.map((answer) => (
                <label key={answer.id} className="flex min-h-7 items-center gap-2 text-[15px]">
                  <input
                    type="radio"
                    name={`${name}-${question.id}`}
                    checked={(answers[question.id] ?? question.usual) === answer.id}
                    onChange={() => onAnswer(question.id, answer.id)}
                  />
                  {answer.words}
                </label>
              ))}
            </div>
          </fieldset>
        </li>
      ))}
    </ul>
  );
}
