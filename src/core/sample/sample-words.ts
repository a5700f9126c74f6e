/** Words of the snowy road for made-up plans. */
export const adjectives = ['Rime', 'Gull', 'Salt', 'Lantern', 'Frost', 'Quarry', 'Beacon', 'Drift', 'Harbour', 'Glass', 'Windmill', 'Signal']
export const nouns = ['Stair', 'Wood', 'Flats', 'Row', 'Shelf', 'Halt', 'Lagoon', 'Hill', 'Landing', 'Depot', 'Orchard', 'Bridge', 'Ferry', 'Dike', 'Pass', 'Post', 'Yard']
export const sourceNames = ['Round', 'Express letter', 'Stray kite', 'Drift', 'Parcel', 'Frost wisp', 'Ropes', 'Lamp', 'Nest count', 'Tea poured', 'Signal read', 'Letters sorted']
