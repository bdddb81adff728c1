"""Ordinary cards in mixed styles, all made up: none of them holds a mistake."""

CARDS: dict[str, str] = {
    "snaps": """GINGER SNAPS (about 3 dozen)

8 oz plain flour
4 oz butter
four ounces soft dark brown sugar
2 tablespoons golden syrup
1 teaspoon bicarb
2 heaped tsp ground ginger

Melt butter, sugar and syrup. Cool a little. Stir in flour, bicarb and ginger.
Roll walnut-sized balls. Put well apart on greased trays.
Gas 4, 10 to 12 mins till golden brown.
Leave on tray five minutes.""",
    "linzer": """Hazel windows
Makes 24

For the dough
200 g flour
120g ground hazelnuts
150 g cold butter, diced
80 g sugar
1 egg
pinch of cinnamon

Filling
150 g redcurrant jelly

To finish
icing sugar

Rub butter into flour, nuts, sugar & cinnamon. Mix in the egg. Wrap, fridge for 1 hour.
Roll out 3 mm thick on a floured bench. Stamp 5 cm rounds, holes in half of them.
Bake 180°C (fan 160°C) 9-11 minutes until pale gold.
Cool on the tray for 5 minutes. Sandwich with jelly, dust with icing sugar.""",
    "biscotti": """Anise & almond twice-baked

300g plain flour
200 g caster sugar
3 eggs
1 tsp baking powder
2 tsp aniseed
150 g whole almonds

Whisk the eggs and sugar until thick and pale. Fold in everything else.
Shape into 2 logs, 30 cm long and 5 cm wide.
Bake at 170C for 25 minutes until firm.
Cool for 15 minutes, then slice 1 cm thick on the slant.
Bake again for 8 minutes a side at 150C.""",
    "short": """Pan shortbread
2 cups all-purpose flour
1 cup (2 sticks) salted butter, soft
1/2 cup powdered sugar
Beat butter and sugar till light. Work in flour.
Press into an 8 inch square pan, prick all over.
Bake 40-45 minutes at 325°F, until just golden. Cut while hot into 16.
Cool in the pan""",
    "oats": """Chewy oat cookies!!
3/4 c. butter, melted
1 c packed brown sugar
1/2 c. white sugar
1 egg + 1 yolk
2 tsp vanilla
1 1/2 c flour
1 tsp soda
1/2 tsp each salt & cinnamon
2 c old fashioned oats
1 cup raisins

1. Mix melted butter and both sugars
2. Add egg, yolk, vanilla
3. Add dry ingredients, then oats and raisins
4. Chill dough 30 min (or overnight)
5. Scoop 2 T balls onto parchment, 2" apart
6. Bake at 350 F 10-12 min, still soft in the middle
7. Cool on sheet 10 min.""",
    "crescents": """Vanilla crescents

280 g flour
210 g butter
100g ground almonds
70 g icing sugar
1 pkt vanilla sugar (8 g)
vanilla sugar and icing sugar to roll them in

Knead all the ingredients quickly. Rest in the cold for half an hour.
Form little crescents, 12 g each. Bake 160 fan, 12-15 min, they should stay pale.
While still warm roll in the sugar.""",
    "thumb": """Jam dents
1 stick of butter
a third of a cup of sugar
one egg, separated
1 1/4 cups flour
3/4 cup finely chopped pecans for rolling
raspberry jam for the dents

cream butter & sugar, beat in yolk, add flour
roll in balls, dip in egg white, roll in the nuts, press a dent
bake 375 for 8 min, press again, fill, 8 min more""",
    "crisps": """Sesame crisps - 40 pieces
100 g sesame
100 g sugar
60 g butter
2 egg whites
40 g flour
Melt butter; stir all together, chill 2 hrs.
Teaspoons on silicone mat, spread to 6cm.
200 degrees, 6 mins, deep brown at the edges.
Shape over a rolling pin at once while hot!""",
    "rye": """Rye rounds
150 g rye flour, 100 g plain flour, 125 g butter, 60 g sugar, 1 egg, 1/2 tsp salt
Rub in, bind with egg, rest 20 min, roll to 1/8 inch, cut with a 2 1/2 inch cutter, prick.
400F about 8 min.""",
    "sweetwords": """Butter drops
250g butter at room temp
150g sugar
2 eggs (medium)
330 g flour
2 level tsp baking powder
zest of 1 lemon
about 2 tbsp milk
coarse sugar for sprinkling

Beat the butter with the sugar. Add eggs one by one, lemon zest.
Sift flour & baking powder and mix in with as much milk as it takes.
Drop teaspoonfuls on lined trays, sprinkle with sugar.
Oven: 190 °C top/bottom heat, 12–14 minutes""",
    "brownedges": """Brown-edge wafers, makes 4 dozen

1 cup butter
⅔ cup sugar
2 eggs
1 1/2 cups sifted cake flour
1 teaspoon vanilla
pinch of salt

Cream butter and sugar. Beat in eggs one at a time, then vanilla. Fold in flour and salt.
Drop by teaspoons 2 inches apart on ungreased sheets.
Bake 350 degrees 8 to 10 minutes till edges brown.""",
    "peanut": """Peanut butter forks (36)
½ cup soft butter
½ cup peanut butter
½ cup white sugar
½ cup brown sugar, packed
1 large egg
1¼ cups all-purpose flour
¾ tsp baking soda
½ tsp baking powder
¼ tsp salt

1. Cream butter, peanut butter and sugars.
2. Beat in the egg.
3. Stir in the dry ingredients.
4. Chill 1 hour.
5. Roll into 1¼-inch balls, flatten with a fork.
6. Bake at 375°F for 9-11 minutes.""",
    "anzoat": """Oat and coconut crisps
1 cup rolled oats
1 cup plain flour
1 cup desiccated coconut
3/4 cup brown sugar
125 g butter
2 tbsp golden syrup
1 tsp bicarb soda
2 tbsp boiling water

Melt the butter and the syrup. Dissolve the bicarb in the water and add.
Pour into the dry ingredients, mix.
Tablespoons onto lined trays, flatten a little.
160 °C for 12 - 15 min until golden.""",
    "stars": """Cinnamon stars

3 egg whites
250 g icing sugar
350 g ground almonds
1 tbsp cinnamon
1 tbsp kirsch

Whisk the whites till stiff, add the sugar slowly. Put 5 tbsp of it aside for the icing.
Mix almonds, cinnamon and kirsch into the rest.
Chill for one hour. Roll out 8 mm thick on sugar. Cut out stars, 5 cm.
Brush with the icing you kept. Bake at 150 °C, 12-15 minutes. They should stay soft.""",
    "viennese": """Piped butter fingers
250g very soft butter
50g icing sugar
250g plain flour
50g cornflour
1/2 tsp vanilla
100g dark chocolate for dipping

Beat butter and icing sugar until very pale. Beat in vanilla, flour and cornflour.
Pipe 8 cm lengths on lined trays, chill 30 minutes.
Bake at 170C fan for 13 to 15 minutes till pale gold.
Cool, dip the ends in melted chocolate, leave to set.""",
    "molasses": """Soft molasses rounds
2 1/4 c flour
2 tsp baking soda
1/4 tsp salt
1 tsp cinnamon
1 tsp ginger
1/2 tsp cloves
3/4 c shortening
1 c brown sugar
1 egg
1/4 c molasses
granulated sugar for rolling

Cream shortening with brown sugar. Add egg and molasses.
Sift in the flour, soda, salt and spices. Chill dough an hour.
Shape in 1 inch balls, roll in sugar. Bake 375 for 10 min.""",
    "spekul": """Spiced windmill leaves

300 g wheat flour (type 405)
150 g cold butter
150 g dark brown sugar
1 egg
2 tsp mixed spice
1/2 tsp baking powder
50 g almonds, flaked

Rub everything but the almonds to crumbs, knead, wrap, leave in the fridge overnight.
Roll out to 4 mm. Cut rectangles 4 x 7 cm. Press the almonds on.
Bake 180°C about 12 minutes.""",
    "polvo": """Sand crumbles (about 30)
300 g flour, toasted and cooled
100 g ground almonds
150 g lard
130 g icing sugar + more to dust
1 tsp cinnamon

Toast the flour in the oven at 160C for 20 min and let it get quite cold.
Rub in the lard, then almonds, sugar and cinnamon. Press together.
Pat out 1.5 cm thick, cut 4 cm rounds.
Bake at 180C for 15 min. Do not move them for fifteen minutes. Dust with icing sugar.""",
    "coconut": """Coconut macaroons
4 egg whites
200 g caster sugar
250 g desiccated coconut
1 tsp vanilla extract
a pinch of salt

Warm whites, sugar, coconut and salt in a bowl over hot water, stirring, until it is 60 °C.
Stir in vanilla. Rest for 30 minutes.
Heap 20 mounds on parchment.
Bake at 170 °C for 15-18 minutes until golden.""",
    "seeded": """Rye & seed crackle bars
200 g rye flour
100 g wholemeal flour
120 g honey
100 g butter, melted
1 egg
80 g mixed seeds
1 tsp baking powder
1/2 tsp salt

Mix it all. Press into a 20 x 30 cm tin lined with paper.
Bake at 180 °C/350 °F/gas 4 for 20-22 min.
Cut while warm into 24 bars.""",
    "choco": """Double choc drops
makes 18 big ones

2/3 cup butter, melted & cooled
1 cup brown sugar
half a cup white sugar
1 egg plus 1 yolk
2 teaspoons vanilla
one and three quarter cups flour
1/2 cup cocoa
1 teaspoon bicarb
pinch salt
2 cups choc chips, keep a handful for the tops

Whisk butter and sugars. Whisk in egg, yolk, vanilla.
Fold in dry, then chips.
Chill at least 30 mins
Scoop 1/4 cup portions, 8 per tray. press reserved chips on top
Bake 350F 12-14 mins, centres still soft. Leave on tray 10 mins.""",
    "cantucci": """Cantuccini
280 g flour (00)
180g sugar
2 large eggs + 1 yolk
1/2 sachet baking powder (8 g)
120 g whole almonds, toasted
zest of an orange

Everything together in a bowl, last the almonds.
Form three logs as long as the tray (35 cm), 4 cm wide.
Oven 180 °C, 20 to 25 min.
Rest 10 min, cut slantwise in 1.5 cm slices, dry at 150 °C 10 min per side.""",
    "alfajor": """Cornstarch sandwiches (20 pairs)
200 g cornstarch
150 g plain flour
1 tsp baking powder
150 g butter
100 g icing sugar
3 yolks
1 tbsp brandy
Filling: 300 g dulce de leche
desiccated coconut for the edges

Cream butter & sugar, yolks one by one, brandy. Sift in the rest.
Wrap; fridge 1 h. Roll out 6 mm, cut 4.5 cm rounds.
Bake 160°C (not fan) 10 min – they must stay white.
Cool completely, sandwich with the filling, roll edges in coconut.""",
    "shortb2": """Scotch fingers
12 oz flour, 8 oz butter, 4 oz caster sugar
Rub together, press into a tin 11 x 7 inches, prick with a fork.
Bake in a slow oven, 300F, for an hour till just coloured.
Mark into fingers while warm; leave in the tin till cold.""",
    "refrig": """Icebox pecan slices
1/2 lb butter
1 c. each white and brown sugar
2 eggs, well beaten
3 1/2 c. flour
1 t. soda
1/2 t. salt
1 c. chopped pecans
Mix in order. Shape in 2 rolls 2 inches thick, wrap in waxed paper and chill overnight.
Slice 1/4 in. thick. Bake 400 for 8 to 10 min. Makes 6 dozen.""",
    "cards1950": """ORANGE REFRIGERATOR COOKIES
1 cup shortening (part butter)
1/2 cup white sugar
1/2 cup brown sugar
2 tbsp orange juice
1 tbsp grated orange rind
1 egg
2 3/4 cups sifted flour
1/4 tsp each soda and salt
1/2 cup nuts

Mix thoroughly shortening, sugars, juice, rind and egg.
Sift together and stir in the dry ingr. Mix in nuts.
Press and mold into a long smooth roll about 2 1/2" in diameter.
Wrap and chill until stiff (several hours or overnight).
Cut in thin slices 1/8" to 1/16" thick. Place a little apart on ungreased baking sheet.
Bake until lightly browned. Temp: 400. Time: 6 to 8 min. Amount: 6 doz. 2 1/2" cookies.""",
    "sheet": """# Brown butter blondies (bars)
## Ingredients
- [ ] 115 g butter
- [ ] 200 g dark brown sugar
- [ ] 1 large egg
- [ ] 1 tsp vanilla
- [ ] 125 g AP flour
- [ ] ½ tsp baking powder
- [ ] ¼ tsp salt
- [ ] 100 g chopped chocolate
## Directions
1) Brown the butter, let cool 10 minutes.
2) Stir in sugar, then egg and vanilla.
3) Fold in flour, baking powder, salt, chocolate.
4) Spread in a lined 8-inch square pan.
5) Bake 350°F for 22–25 minutes.
6) Cool completely in the pan before cutting into 16 squares.""",
    "euro": """Vanille-Kränze
für den Teig:
300 g flour
200 g butter
100 g icing sugar
1 packet vanilla sugar
2 egg yolks
to brush: 1 egg yolk, 1 tbsp milk
to sprinkle: 50 g pearl sugar

Knead to a smooth dough, wrap in foil, keep cool 1 hour.
Roll out 4 mm, cut out rings (6 cm outside, 2 cm inside).
Brush, sprinkle. Bake in preheated oven at 175 degrees (top/bottom heat) approx. 12 minutes.""",
    "amaretti": """Almond chewies
200g ground almonds + 170 g caster sugar
2 egg whites (about 70 g)
a few drops almond extract
icing sugar for rolling

Whisk whites to soft peaks, fold in almonds, sugar, extract. Leave 30 min.
Roll heaped teaspoons into balls in icing sugar, pinch.
150 °C fan, 18-20 min; crisp outside, still soft inside.""",
    "bigoat": """Giant oat slabs - makes 8

170g butter
170 g soft light brown sugar
2 tbsp honey
350 g porridge oats
75 g dried cranberries
a pinch of sea salt

Heat oven to 160C/140C fan/gas 3. Line a 20cm square tin.
Melt butter, sugar, honey. Stir in oats, cranberries and salt. Press into the tin.
Bake for 25–30 mins, until golden at the edges.
Cool in the tin for 15 mins, mark into 8, leave till cold.""",
    "honeyc": """Honey cakes for the tin
(from next door, about 40)

250 g honey
100 g sugar
60 g butter
500 g flour
1 tsp ground cinnamon, 1/2 tsp cloves
2 tsp baking soda
1 egg
for the glaze: 150g icing sugar, 3 tbsp water

Warm honey, sugar, butter till dissolved. Cool to lukewarm
add egg, then flour with spices and soda
Cover, rest in a cool place 24 hours at least (3 days better)
Roll 5mm. Cut hearts.
170° for 12 mins. Glaze while warm, let dry 2 hours.""",
}

PLANTED: tuple[tuple[str, str, str, str], ...] = (
    # Units: an ounce for a gram, a spoon for a spoon, a pound for an ounce.
    ("snaps", "8 oz plain flour", "8 g plain flour", "units"),
    ("snaps", "4 oz butter", "4 lb butter", "units"),
    ("linzer", "150 g cold butter", "150 oz cold butter", "units"),
    ("biscotti", "200 g caster sugar", "2 kg caster sugar", "amount"),
    ("rye", "125 g butter", "125 oz butter", "units"),
    ("viennese", "250g very soft butter", "250 oz very soft butter", "units"),
    ("oats", "2 tsp vanilla", "2 cups vanilla", "amount"),
    ("peanut", "½ tsp baking powder", "½ cup baking powder", "amount"),
    ("molasses", "2 1/4 c flour", "2 1/4 tbsp flour", "units"),
    # Decimals.
    ("linzer", "150 g cold butter", "1500 g cold butter", "amount"),
    ("biscotti", "300g plain flour", "30g plain flour", "amount"),
    ("spekul", "150 g dark brown sugar", "1500 g dark brown sugar", "amount"),
    ("sweetwords", "250g butter", "25g butter", "amount"),
    ("rye", "1/2 tsp salt", "5 tsp salt", "amount"),
    ("molasses", "1/4 tsp salt", "25 tsp salt", "amount"),
    ("polvo", "150 g lard", "15 g lard", "amount"),
    ("seeded", "1 tsp baking powder", "10 tsp baking powder", "amount"),
    # Scales swapped, or at odds.
    ("linzer", "180°C (fan 160°C)", "180°C (fan 200°C)", "temperature"),
    ("seeded", "180 °C/350 °F/gas 4", "350 °C/180 °F/gas 4", "temperature"),
    ("seeded", "180 °C/350 °F/gas 4", "180 °C/350 °F/gas 8", "temperature"),
    ("short", "325°F", "325°C", "temperature"),
    ("oats", "350 F", "350 F (230 C)", "temperature"),
    # Written twice.
    ("spekul", "1 egg", "1 egg\n1 egg", "double"),
    ("peanut", "1 large egg", "½ cup white sugar\n1 large egg", "double"),
    ("viennese", "250g plain flour", "250g plain flour\n250g plain flour", "double"),
    # Forgotten.
    ("snaps", "1 teaspoon bicarb\n", "", "unlisted"),
    ("linzer", "80 g sugar\n", "", "unlisted"),
    ("peanut", "½ cup peanut butter\n", "", "unlisted"),
    ("oats", "1 cup raisins\n", "", "unlisted"),
    # Contradictions in one line.
    ("short", "1 cup (2 sticks) salted butter", "1 cup (4 sticks) salted butter", "volume_weight"),
    ("short", "2 cups all-purpose flour", "2 cups (500 g) all-purpose flour", "volume_weight"),
    # Yield and minutes.
    ("brownedges", "makes 4 dozen", "makes 4", "yield"),
    ("crisps", "6 mins", "60 mins", "minutes"),
    ("oats", "10-12 min", "40-45 min", "minutes"),
    ("stars", "12-15 minutes", "3 minutes", "minutes"),
)
"""What is written of one of them, what stands there in its place, and the alarm that tells so."""

SAYS: dict[str, dict[str, object]] = {
    "choco": {"dough_g": 1147, "pieces": 18, "chill_min": (30, 30), "doneness": "soft_centre"},
    "cantucci": {
        "family": "twice_baked",
        "logs": 3,
        "log_mm": 40,
        "log_length_mm": 350,
        "slice_mm": 15,
        "second_oven_c": 150,
        "second_minutes": (20, 20),
        "cool_before_slicing_min": (10, 10),
    },
    "alfajor": {"family": "rolled", "pieces": 20, "cutter_mm": 45, "colour": "pale"},
    "shortb2": {"family": "shortbread", "mixing": "rubbed_in", "dough_g": 680, "pan_mm": 279.4},
    "refrig": {"family": "shortbread", "logs": 2, "log_mm": 50.8, "slice_mm": 6.35, "pieces": 72},
    "cards1950": {"log_mm": 63.5, "oven_c": 204.4, "minutes": (6, 8), "pieces": 72},
    "sheet": {"dough_g": 598, "pieces": 16, "pan_mm": 203.2},
    "euro": {"dough_g": 636, "chill_min": (60, 60), "thickness_mm": 4, "cutter_mm": 60},
    "amaretti": {"dough_g": 440, "mixing": "whisked", "fan": True, "oven_c": 150},
    "bigoat": {"oven_c": 160, "minutes": (25, 30), "pieces": 8, "pan_mm": 200},
    "honeyc": {"dough_g": 973, "pieces": 40, "thickness_mm": 5, "setting_min": (120, 120)},
    "stars": {"mixing": "whisked", "thickness_mm": 8, "cutter_mm": 50, "chill_min": (60, 60)},
    "polvo": {"oven_c": 180, "wait_min": None, "rest_min": (15, 15), "pieces": 30},
    "coconut": {"oven_c": 170, "wait_min": (30, 30), "pieces": 20},
    "sweetwords": {"oven_c": 190, "minutes": (12, 14)},
}
"""What a careful reader takes from some of them."""
