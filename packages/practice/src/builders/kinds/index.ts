export * from './answerList'; //   a list of labelled answers
export * from './plainKeys'; //    one flat object
export * from './bracketed'; //    urlencoded, nested
export * from './multipart'; //    with the files
export * from './rowFeed'; //      read on a timer
export * from './notification'; // by mail
