import { isJsonObject, type Json } from '@grammata/core/submission';
import { compileChain, isProblem, transformOf, type Step } from '@grammata/core/transform';
import { documentOf, fileAndOptions, Misuse, type Command } from './command';

/** `grammata apply`: a cleaning chain over values. */
export const apply: Command = async args => {
  const { file } = fileAndOptions(args, {});
  const { chain, values } = checked(await documentOf(file));
  chain.forEach(mustKnow);
  const compiled = compileChain(chain);
  if (compiled.faults.length > 0)
    throw new Misuse(compiled.faults.map(fault => `step ${fault.step + 1}: ${fault.message}`).join(' '));
  const results = values.map(value => {
    const result = compiled.run(value);
    return isProblem(result)
      ? { problem: { code: result.code, message: result.message, value: result.value } }
      : { value: result };
  });
  return { results };
};

/** A parameter that is none is a slip: passed over, the step would do something else. */
function mustKnow({ id, params }: Step, index: number): void {
  const transform = transformOf(id);
  if (!transform) return;
  const known = Object.keys(new transform.params());
  const stray = Object.keys(params).find(each => !known.includes(each));
  if (stray !== undefined)
    throw new Misuse(
      `step ${index + 1}: “${stray}” is not a parameter of ${id}; ${known.length === 0 ? 'it takes none' : `it takes ${known.join(', ')}`}.`,
    );
}

function checked(document: unknown): { chain: Step[]; values: Json[] } {
  if (!isJsonObject(document) || !Array.isArray(document.chain) || !Array.isArray(document.values)) {
    throw new Misuse('the document must hold "chain" and "values", both lists.');
  }
  const chain = document.chain.map((step, index): Step => {
    if (!isJsonObject(step) || typeof step.id !== 'string')
      throw new Misuse(`step ${index + 1} must be {"id", "params"}.`);
    return { id: step.id, params: isJsonObject(step.params) ? step.params : {}, off: step.off === true };
  });
  return { chain, values: document.values };
}
