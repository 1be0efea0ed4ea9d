/** What the sightings speak: GraphQL, October 2021. */
export const sightingsText = `
  "A time with its zone, such as 2026-11-04T08:00:00Z."
  scalar DateTime

  enum Stage {
    EGG
    YOUNG
    GROWN
  }

  input PlaceInput {
    "The site’s code."
    site: String!
    note: String
  }

  input MarkInput {
    name: String!
    value: String!
  }

  input SightingInput {
    "What was seen."
    species: String!
    count: Int = 1
    stage: Stage
    seenAt: DateTime
    place: PlaceInput!
    "How whoever saw it can be reached."
    observer: String
    marks: [MarkInput!]
  }

  input SightingChanges {
    count: Int
    stage: Stage
    observer: String
  }

  type Place {
    site: String!
    note: String
  }

  type Mark {
    name: String!
    value: String!
  }

  type Sighting {
    id: ID!
    number: Int!
    species: String!
    count: Int!
    stage: Stage
    seenAt: DateTime
    place: Place!
    observer: String
    marks: [Mark!]!
  }

  type SightingPage {
    total: Int!
    nodes: [Sighting!]!
  }

  type Query {
    "Look for sightings"
    sightings(species: String, site: String, first: Int = 20): SightingPage!
    "Read a sighting"
    sighting(id: ID!): Sighting
  }

  type Mutation {
    "Record a sighting"
    recordSighting(input: SightingInput!): Sighting!
    "Change a sighting"
    changeSighting(id: ID!, changes: SightingChanges!): Sighting!
  }
`;
