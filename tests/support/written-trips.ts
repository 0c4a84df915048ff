/**
 * Trips as people would write them, with where their places are from general knowledge: the two letters of the country, and the state or province where that
 * tells twins apart. Most have places whose names are those of larger ones elsewhere.
 */
const TRIPS = `
US/Massachusetts Boston, Springfield | US/New York Albany, Syracuse, Ithaca
US/Illinois Chicago, Springfield | US/Missouri St. Louis, Columbia, Kansas City
US/Ohio Columbus, Springfield, Dayton | US/Indiana Richmond, Indianapolis
US/Missouri Springfield, Joplin | US/Oklahoma Tulsa, Oklahoma City
US/Maine Portland, Bangor, Augusta
US/Oregon Portland, Salem, Eugene, Medford
US/Oregon Portland | US/Washington Vancouver, Olympia, Seattle
CA/British Columbia Vancouver, Victoria, Kelowna | CA/Alberta Calgary, Edmonton
US/Alabama Birmingham, Montgomery, Mobile | US/Louisiana New Orleans
GB/England Birmingham, Manchester, Leeds, York
GB/England Cambridge, Oxford, Bath, Bristol
US/Massachusetts Cambridge, Worcester, Springfield | US/Connecticut Hartford
CA/Ontario London, Windsor, Toronto, Hamilton, Kingston
GB/England London, Dover | FR/ Calais, Paris, Lyon
US/Texas Paris, Dallas, Austin, San Antonio, Houston
US/Georgia Athens, Rome, Savannah, Augusta
GR/ Athens, Corinth, Patras | IT/ Rome, Naples
IT/ Rome, Florence, Venice, Milan, Turin
US/Texas Dallas, Waco, Austin, Victoria
ES/ Valencia, Barcelona, Zaragoza, Madrid
VE/ Caracas, Valencia, Barquisimeto
ES/ Córdoba, Granada, Seville, Toledo
AR/ Buenos Aires, Rosario, Córdoba, Mendoza
US/Ohio Toledo, Cleveland, Akron
ES/ Mérida, Cáceres, Salamanca, León
MX/ Mexico City, Puebla, Oaxaca, Mérida, Cancún
MX/ Guadalajara, León, Querétaro, Monterrey
ES/ Guadalajara, Cuenca, Albacete
EC/ Quito, Cuenca, Guayaquil, Loja
CL/ Santiago, Valparaíso, La Serena, Antofagasta
ES/ Santiago de Compostela, Vigo | PT/ Porto, Lisbon, Faro
CU/ Havana, Santiago de Cuba, Trinidad
CR/ San José, Liberia, Alajuela
US/California San Jose, San Francisco, Sacramento, Fresno
UY/ Montevideo, Salto, Paysandú | AR/ Buenos Aires
GY/ Georgetown | SR/ Paramaribo | GF/ Cayenne
MY/ Kuala Lumpur, George Town, Ipoh, Malacca
LB/ Beirut, Tripoli, Sidon, Tyre
LY/ Tripoli, Benghazi, Misrata
EG/ Alexandria, Cairo, Luxor, Aswan
US/Virginia Alexandria, Richmond, Norfolk, Williamsburg
AU/Victoria Melbourne, Geelong, Ballarat
US/Florida Melbourne, Orlando, Tampa, Miami
AU/New South Wales Sydney, Newcastle, Wollongong
GB/England Newcastle upon Tyne, Durham, Lincoln, Cambridge
US/North Carolina Durham, Raleigh, Charlotte, Wilmington
AU/Western Australia Perth, Albany, Bunbury
GB/Scotland Perth, Dundee, Aberdeen, Inverness
US/South Dakota Aberdeen, Sioux Falls, Rapid City
NZ/ Wellington, Nelson, Christchurch, Dunedin, Hamilton, Auckland
ZA/ East London, Durban, Johannesburg, Wellington, Cape Town
IN/ Hyderabad, Bengaluru, Salem, Madurai
PK/ Karachi, Hyderabad, Multan, Lahore
IN/ Delhi, Agra, Jaipur, Udaipur
JP/ Tokyo, Kyoto, Osaka, Hiroshima, Fukuoka
CN/ Beijing, Xi'an, Chengdu, Lhasa
VN/ Hanoi, Hue, Da Nang, Ho Chi Minh City
TH/ Bangkok, Ayutthaya, Chiang Mai
DE/ Berlin, Frankfurt (Oder), Dresden, Halle
DE/ Frankfurt am Main, Heidelberg, Freiburg | CH/ Basel, Bern, Geneva
AT/ Wien, Linz, Salzburg | DE/ München, Augsburg, Ulm
FR/ Paris, Tours, Angers, Nantes, Vannes
FR/ Nice, Cannes, Valence, Grenoble
BE/ Brussels, Ghent, Bruges | NL/ Rotterdam, Amsterdam
PL/ Warszawa, Kraków, Lublin, Gdańsk
NO/ Oslo, Bergen, Stavanger, Trondheim, Tromsø
IS/ Reykjavík, Akureyri, Húsavík
IE/ Dublin, Cork, Galway, Limerick
US/Kentucky London, Lexington, Louisville, Paris
US/Tennessee Memphis, Nashville, Knoxville, Jackson
US/Mississippi Jackson, Vicksburg, Natchez
US/Michigan Jackson, Lansing, Grand Rapids
PE/ Lima, Cusco, Arequipa, Trujillo
HN/ Tegucigalpa, Trujillo, La Ceiba
PH/ Manila, Cebu City, Toledo, Valencia
KE/ Nairobi, Mombasa, Nakuru | TZ/ Arusha, Dar es Salaam
MA/ Tangier, Fez, Marrakesh, Essaouira
TR/ Istanbul, Bursa, Ankara, Konya, Antalya
GE/ Tbilisi, Batumi, Kutaisi
US/Georgia Atlanta, Macon, Columbus, Albany
`

/** A trip in writing, and for each of its places where that is. */
export interface WrittenTripCase {
  text: string
  places: readonly { name: string; country: string; region: string }[]
}

const read = (line: string): WrittenTripCase['places'] =>
  line.split(' | ').flatMap((part) => {
    const [, country, rest] = /^([A-Z]{2})\/(.*)$/.exec(part)!
    // A state has one to three words; names begin after it, and the first name is what is left.
    const { region, names } = split(rest!)
    return names.map((name) => ({ name, country: country!, region }))
  })

const REGIONS = ['Massachusetts', 'New York', 'Illinois', 'Missouri', 'Ohio', 'Indiana', 'Oklahoma', 'Maine', 'Oregon', 'Washington', 'British Columbia', 'Alberta', 'Alabama', 'Louisiana', 'England', 'Connecticut', 'Ontario', 'Texas', 'Georgia', 'California', 'Virginia', 'Victoria', 'Florida', 'New South Wales', 'North Carolina', 'Western Australia', 'Scotland', 'South Dakota', 'Kentucky', 'Tennessee', 'Mississippi', 'Michigan'] // prettier-ignore

function split(rest: string): { region: string; names: string[] } {
  const region = REGIONS.find((name) => rest.startsWith(`${name} `)) ?? ''
  return { region, names: rest.slice(region.length).trim().split(', ') }
}

/** How the same trip is written by different people. */
const MANNERS: readonly ((names: readonly string[]) => string)[] = [
  (names) => names.join(' - '),
  (names) => names.join('\n'),
  (names) => names.map((name, i) => (i === 0 ? name : i % 2 === 0 ? `${name}, 2 nights` : `then to ${name}`)).join('\n'),
]

const bases = TRIPS.trim().split('\n').map(read)

/** Each trip there, and back, and without its first place: written in turn as lists, lines, and with nights. */
export const WRITTEN_TRIPS: readonly WrittenTripCase[] = bases.flatMap((places, i) =>
  [places, [...places].reverse(), places.slice(1)]
    .filter((some) => some.length >= 3)
    .map((some, k) => ({ text: MANNERS[(i + k) % MANNERS.length]!(some.map(({ name }) => name)), places: some })),
)
