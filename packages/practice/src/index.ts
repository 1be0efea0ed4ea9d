export { answerListMessage, type Message } from './builders/answerList';
export type { Answers, Doc, Filled, PracticeForm, Question } from './builders/form';
export { samplingReport, signs, sites } from './builders/samplingReport';
export { complaintsAbout } from './register/check';
export { tables } from './register/tables';
export { startYard, type Yard, type YardOptions } from './yard';
