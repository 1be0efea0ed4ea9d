import type { PracticeForm } from './form';
import { incidentAlert, kitRequest, samplingReport, schoolVisit, siteAccessLog, volunteerSignUp } from './forms';
import type { BuilderKind } from './kind';
import { answerList, bracketed, multipart, notification, plainKeys, rowFeed } from './kinds';

/** A form and the builder that carries it. */
export interface Carried {
  /** The last part of its page's address. */
  id: string;
  form: PracticeForm;
  kind: BuilderKind;
}

/** The forms of Alder Basin River Watch. */
export const catalogue: Carried[] = [
  { id: 'sampling-report', form: samplingReport, kind: answerList },
  { id: 'volunteer-sign-up', form: volunteerSignUp, kind: plainKeys },
  { id: 'kit-request', form: kitRequest, kind: bracketed },
  { id: 'incident-alert', form: incidentAlert, kind: multipart },
  { id: 'site-access-log', form: siteAccessLog, kind: rowFeed },
  { id: 'school-visit', form: schoolVisit, kind: notification },
];
