import { Component, type ReactNode } from 'react';
import { Act, Fault } from '../ui';

/** Keeps what breaks in a part of a page to that part: the rest stays, with what was typed there. */
export class Boundary extends Component<{ what: string; children: ReactNode }, { error: unknown }> {
  override state = { error: null };

  static getDerivedStateFromError(error: unknown) {
    return { error };
  }

  override render(): ReactNode {
    if (this.state.error === null) return this.props.children;
    return (
      <div className="px-6 py-4">
        <Fault>
          {this.props.what} can’t be shown: something in it broke. The rest of the page works.{' '}
          <Act onClick={() => this.setState({ error: null })}>Show it again</Act>
        </Fault>
      </div>
    );
  }
}
