export const givenNames =
  'Amara Pascal Ines Mei Farouk Leopold Chloé Isidore Piers Jun Kwame Soren Patricia Siobhán Xanthe Imani Lucretia Anuli Hao Niamh Renée Anselm Theodore Wilhelmina Alexander Hamish Oona Edda Samuel Zora Viggo Rosalind Kalinda Greta Yusuf Omar Frances Mireille Caspian Quinlan Keoni Zoë Priya Odile Brigid Dorothea Thaddeus Saoirse William Arjun Jorunn Tamsin Leilani Gwendolyn Christopher Elizabeth Katherine Michael Robert Tobias Marit Odalys Linus Noor Ewan Farah Giles Hester Ilse Jonas Katya Lorcan Maeve Nils Orla Petra Rafael Selma Tariq Una Vera Wyn Yara Zeno'.split(
    ' ',
  );
export const familyNames =
  "Nettle Kettle Eriksen Hargreave Yarrow Pena Rasmussen Kowalczyk Mosswood Hollis Rushbrook Vetch Winterbourne Côté Lefèvre Brandvold O'Hara Wren Sandoval Jankowski Eastlake Thistlewood McAllister Delacroix Marchetti Olufsen Whitlock Dunmore Underhill Ormiston Xu Müller Nakashima Jessamy Fontaine Quistgaard Papadakis Zielinski Dubois Tremblay Ingleby Zephyrin Pennyfeather Fairweather Cromarty Tansy Nguyen Yamada Carrington Baptiste Achebe Okarro Solvang Lachance Ferrant Marsh Alder Sedge Harrow Kestrel Lowry Mead Novak Oakes Pryor Quill Rowan Sorrel Teal Upton Vane Wilder Yates Bracken Cole Dunlin Ember Fenwick".split(
    ' ',
  );
export const streets = [
  'Causeway Rd',
  'Reedcutters Row',
  'Heronry Cl',
  'Harbour St',
  'Saltmarsh Way',
  'Mill Pond Ave',
  'Sluice Lane',
  'Old Dyke Rd',
  'Chapel Hill',
  'Tidewater Cres',
];
export const domains = [
  'harbourpost.example',
  'fenmail.example',
  'tidepost.example',
  'postbox.example',
  'quietmail.example',
  'ansley.example',
];
export const areas = ['902', '782', '506', '709', '416', '613', '207', '617', '418'];
/** A name as it stands in an email address. */
export const plain = (name: string): string =>
  name
    .normalize('NFD')
    .replace(/[^A-Za-z]/gu, '')
    .toLowerCase();
