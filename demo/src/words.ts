/** Word lists from which the demo station's names are made; surnames and place words are invented. */
export const FIRST_NAMES = (
  'Oona Ferdia Maud Silvan Tess Corin Ines Bastian Nuala Piers Odile Tamsin Ivo Greta Lorcan Petra Amadou Celeste ' +
  'Joao Marisol Kwabena Adaeze Tiago Luzia Rafi Zofia Anselm Brigid Cormac Dervla Emeka Fenna Gideon Hedy Isolde ' +
  'Jarek Katell Lucan Mirela Nestor Orsolya Padma Quill Roisin Sorley Thea Ursel Viggo Wren Yara'
).split(' ');

export const SURNAMES = (
  'Tarbrook Quillane Osterholt Vennmore Dallisk Harrowby Kestrane Lowmere Pellowin Rushdene Saltergate Thornwick ' +
  'Umberlane Vosslake Withycombe Yarmundy Abelow Brackenrill Coldwend Drovane Eddlestone Fallowby Grislane Hathermoor ' +
  'Inkersole Jessamond Kilvarrow Lathermoss Mossendew Northolm Oakenrise Pinderfell Quarrender Ridgewell Sallowbank ' +
  'Tindervale Ullathorne Varneshaw Wexmoor Yellandry Almadane Benxuro Carvalhosa Dembavele Etxanoa Faladoro ' +
  'Gambarosa Ibaruene Jelimane Kolondara'
).split(' ');

export const BAND_ADJECTIVES = (
  'Tallow Crooked Copper Hollow Paper Velvet Salted Drowsy Marbled Lantern Woollen Tidal Borrowed Gilded Thistle ' +
  'Rusted Midland Amber Quiet Sunken Willow Clockwork Feathered Northern Brindled Candle Harvest Mossy Ragged Silver'
).split(' ');

export const BAND_NOUNS = (
  'Wicks Lockkeepers Heronries Bargemen Sluices Tillers Dovecotes Weirs Bobbins Spindles Causeways Hayricks Millraces ' +
  'Turnpikes Aqueducts Osiers Withies Balers Cordwainers Ferrymen Towlines Rushlights Eelers Skylarks Puddlers Barrows ' +
  'Windlasses Thatchers Reedlings Fenwalkers'
).split(' ');

export const SOLO_WORDS = (
  'Velkare Ossuline Thrennody Marrowlux Quintessa Driftmark Lumenfold Harkaway Noctavane Pellucid Sablewire Tessarine ' +
  'Umbrelle Vantorre Wexelight Aurivane Bellwether Cindrift Dovetalia Emberlyne Foxglint Glasswend Hushfield Irisette ' +
  'Juniperus Kilnlight Larkspire Mothlamp Nightjarra Opaline'
).split(' ');

export const GROOVE_BANDS = (
  'Orquesta Ribalume;Conjunto Almadeira;Sonora Xalvera;Banda Quixabeira;Grupo Tambalé;Orchestre Kolonda;Les Étoiles de Bandiala;' +
  'Trio Carambé;Septeto Marilón;Super Djoliva;Coletivo Ipanará;Nova Cumbia Velada;Ensemble Benkadia;Rumba Caldera;Afro Lusora'
).split(';');

export const TITLE_ADJECTIVES = (
  'Slow Bright Hidden Broken Golden Restless Early Distant Empty Tender Crooked Silver Winter Open Wild Faded Quiet Second ' +
  'Borrowed Heavy Hollow Electric Narrow Southern Gentle Burning Lonely Painted Sudden Velvet Yellow Blue Falling Drifting ' +
  'Ordinary Patient Shallow Stolen Sweet Thin Tidal Warm Weathered Longest Lighter Frozen Folded Curious Common Careful'
).split(' ');

export const TITLE_NOUNS = (
  'River Lantern Harbour Kitchen Window Compass Orchard Machine Feather Mirror Signal Garden Anchor Bridge Candle Letter ' +
  'Meadow Morning Pocket Shadow Station Thunder Violet Weather Kingdom Ladder Marble Needle Ocean Paper Quarry Ribbon Saddle ' +
  'Timber Umbrella Valley Whistle Almanac Barley Chimney Dovecote Engine Furrow Ginger Hazel Island Juniper Kettle Lock ' +
  'Mile Nettle Otter Pillow Reed Sparrow Towpath Union Vessel Willow Yard Ember Fiddle Heron Atlas Bell Cedar Drum Echo Field'
).split(' ');

export const TITLE_PLACES = (
  'the Weir,the Long Pound,Canal Street,the Wharf,Thornwick,the Hill,the Ferry Steps,Osier Bank,the Cut,the Staircase Locks,' +
  'Saltergate,the Mill Pond,the Cinder Path,the Old Swing Bridge,the Allotments,Platform Nine,the Reed Beds,Tunnel Mouth'
).split(',');

export const TITLE_VERBS =
  'Carry Follow Remember Forget Find Leave Call Hold Lead Trust Teach Wake Bring Lend Show Keep'.split(' ');
export const TITLE_ADVERBS =
  'Home,Over,Slowly,Again,Down,Tonight,Tomorrow,Closer,Away,Under,Early,Back,Through,Light,Wide,Lightly'.split(',');
export const IRISH_WORDS =
  'Abhainn Solas Gaoth Coill Réalta Báisteach Geimhreadh Samhradh Cladach Fuinneog Droichead Ciúnas Maidin Oíche Sneachta Farraige'.split(
    ' ',
  );
export const IRISH_TAILS =
  'Gheal,Bheag,na hOíche,an Chladaigh,Mhór,na Maidine,Chiúin,an Droichid,Fhada,na Coille'.split(',');

export const ALBUM_TAILS =
  'Sessions,Tapes,Almanac,at the Wharf,in Colour,Variations,Postcards,for Winter,and Other Stories,Bound,Nocturnes,Parade'.split(
    ',',
  );
export const LABELS =
  'Towpath Records,Lockgate Sound,Sedge & Sallow,Half Tide Music,Cinder Path,Kilnhouse,Marl Recordings,Pound Lock'.split(
    ',',
  );

export const SPONSORS = [
  'Canal Street Bakery',
  'Lockside Cycles',
  'Vale Credit Union',
  'Thornwick Timber',
  'The Dipping Ladle',
  'Marl & Daughter Opticians',
  'Wharf Yard Brewery',
  'Sallowbank Garden Centre',
  'Osier Vale Buses',
  'Pinder’s Hardware',
  'Reedling Nursery School',
  'Half Tide Swimming Pool',
];
