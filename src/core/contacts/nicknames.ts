/**
 * Given names and what people are called instead, each line a full name and its short forms. Everyday English and
 * French usage. A short form may belong to several full names: Alex is Alexander or Alexandra.
 */
const groups = `
abigail abby gail
abraham abe bram
adelaide addie
agnes aggie nessa
alan al
albert al bert bertie
alexander alex al sandy xander lex sasha
alexandra alex sandra sandy lexi sasha
alfred alf fred al
alice ali
alison ali allie
amanda mandy
amelia millie amy
andrea andie
andrew andy drew
angela angie
anne ann anna annie nan nancy
anthony tony ant
antoine tony toine
arthur art artie
barbara barb babs
bartholomew bart
beatrice bea trixie
benjamin ben benny benji
bernadette bernie
bernard bernie
bridget biddy bridie
brigid bridie biddy
cameron cam
caroline carrie caro
catherine cathy kate cate katie cat kit
cecilia cece celia
charles charlie chuck chas
charlotte charlie lottie char
chloe clo
christina chris tina chrissy
christine chris tina chrissy
christopher chris kit topher
clara clare
constance connie
cornelius con neil
cynthia cindy
daniel dan danny
danielle dani
david dave davy
deborah deb debbie
dennis denny
dominic dom
dominique dom
donald don donny
dorothea dot dottie thea dora
dorothy dot dottie dolly
douglas doug
edmund ed ned ted
edward ed ned ted eddie teddy
eleanor ellie nell nora lenny
elizabeth liz beth betty eliza lizzie libby betsy lisa elsie
emily em emmy
emma em
ernest ernie
esther essie hester
eugene gene
evelyn evie
florence flo flossie
frances fran frankie francie fanny
francis frank frankie
francois frank
franklin frank
frederick fred freddie rick
gabriel gabe
gabrielle gabi gaby
genevieve gen viv
geoffrey geoff jeff
george georgie
gerald gerry jerry
gilbert gil bert
gregory greg
gwendolyn gwen wendy
hamish jamie
harold harry hal
harriet hattie
henry harry hal hank
herbert herb bert
hubert bert hugh
isaac ike
isabella bella izzy isa
isabelle bella izzy isa
isidore izzy
jacob jake
jacqueline jackie
james jim jimmy jamie
janet jan
jean-pierre jp
jeffrey jeff
jennifer jen jenny jenn
jessica jess jessie
joan joanie
joanna jo
joanne jo
john jack johnny
jonathan jon jonny
joseph joe joey
josephine jo josie
joshua josh
judith judy
julia jules julie
kalinda kali
katherine kate katie kathy kat kit kay
kathleen kathy kate kay
katya kat
kenneth ken kenny
kimberly kim
kristina kris tina
laura laurie
laurence larry laurie
lawrence larry laurie
leonard len lenny leo
leonardo leo
leopold leo poldi
lillian lily
louis lou louie
louise lou
lucretia lu lucy
lucille lucy lu
lucy lu
madeleine maddie
magdalena lena maggie magda
malcolm mal
margaret maggie meg peggy marge margie greta daisy
maria mia
marie mimi
martha marty patty
martin marty
mary molly polly may
matilda tilda tilly
matthew matt matty
maurice mo
maximilian max
maxwell max
melissa mel lissa
meredith merry
michael mike mick mickey mikey
michelle shelly
mildred millie
mireille mimi
miriam mim mimi
mitchell mitch
nancy nan
natalie nat
natasha tasha
nathan nat nate
nathaniel nat nate
nicholas nick nicky
nicole nicky nikki
oliver ollie
olivia liv livvy
pamela pam
pascal pasco
patricia pat patty tricia trish patsy
patrick pat paddy rick
penelope penny nell
peter pete
philip phil pip
philippa pippa pip
phillip phil pip
phyllis phyl
priscilla cilla pris
quinlan quinn
rachel rach
raymond ray
rebecca becky becca bex
reginald reg reggie
renee ren
richard rick dick rich richie ricky
robert bob rob bobby robbie bert
roberta bobbie
roderick rod rory
rodney rod
roger rodge
ronald ron ronnie
rosalind roz rosie ros
rosemary rosie rose
rudolph rudy
russell russ
samantha sam sammy
samuel sam sammy
sarah sally sadie
saoirse sersh
sebastian seb bas
shannon shan
sharon shaz
simon si
sophia sophie
stanley stan
stephanie steph
stephen steve stevie
steven steve stevie
stuart stu
susan sue susie suzy
susannah sue susie anna
suzanne sue suzy
sylvia syl
tabitha tabby
tamsin tam tammy
terence terry
teresa terry tess tessa
thaddeus thad tad
theodora thea dora teddy
theodore ted theo teddy
therese terry tess
thomas tom tommy
timothy tim timmy
tobias toby
ulrike ulli rike
ursula ursie
valerie val
veronica ronnie vera
victor vic
victoria vicky tori
vincent vince vin
virginia ginny
vivian viv
walter walt wally
wilfred wilf fred
wilhelmina mina billie willa minnie
william bill will billy willy liam
winifred winnie
xanthe xan
yolanda yoli
yusuf joe yus
zachary zach zack
`;

const rootsOf = new Map<string, Set<string>>();
for (const line of groups.trim().split('\n')) {
  const [full, ...short] = line.trim().split(' ');
  for (const name of [full!, ...short]) {
    const roots = rootsOf.get(name) ?? new Set<string>();
    roots.add(full!);
    rootsOf.set(name, roots);
  }
}

/** First letters somebody with this folded given name may sign with: L. may be Elizabeth, called Liz. */
export function initialsOf(folded: string): ReadonlySet<string> {
  const initials = new Set([folded[0] ?? '']);
  for (const [name, roots] of rootsOf) if (roots.has(folded)) initials.add(name[0]!);
  return initials;
}

/** The full names a folded given name may stand for, itself among them. */
export const rootsOfGiven = (folded: string): ReadonlySet<string> => {
  const roots = new Set(rootsOf.get(folded));
  roots.add(folded);
  return roots;
};

/** True when two folded given names may be the same person's: one is short for the other, or both for a third. */
export function isNickname(a: string, b: string): boolean {
  if (a === b) return false;
  const roots = rootsOf.get(a);
  const others = rootsOf.get(b);
  if (!roots || !others) return false;
  for (const root of roots) if (others.has(root)) return true;
  return false;
}

/** True for a given name people really have; a name one slip away from it is then another name, not a slip. */
export const isKnownGiven = (folded: string): boolean => rootsOf.has(folded);
