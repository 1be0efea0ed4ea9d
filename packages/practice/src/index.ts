export { catalogue, type Carried } from './builders/catalogue';
export { FEED_TOKEN } from './builders/builder';
export type { Answers, Doc, Filled, PracticeForm, Question } from './builders/form';
export { interests, kits, severities, signs, sites, samplingReport } from './builders/forms';
export type { BuilderSetting, Message } from './builders/kind';
export { onePixel } from './builders/testAnswers';
export { complaintsAbout } from './register/check';
export { tables } from './register/tables';
export { startYard, type Yard, type YardOptions } from './yard';
