//! The named colours of CSS (CSS Color 4, section 6.1, “Named Colors”), without the names
//! that spell grey another way.

use super::Color;

macro_rules! named {
    ($($name:ident $css:ident $hex:literal;)*) => {
        impl Color {
            $(
                #[doc = concat!("CSS `", stringify!($css), "`.")]
                pub const $name: Self = Self::from_hex($hex);
            )*

            /// Every named colour of CSS with its name, in the order of the names.
            pub const NAMED: &'static [(&'static str, Self)] =
                &[$((stringify!($css), Self::$name),)*];
        }
    };
}

named! {
    ALICEBLUE aliceblue 0xf0f8ff;
    ANTIQUEWHITE antiquewhite 0xfaebd7;
    AQUA aqua 0x00ffff;
    AQUAMARINE aquamarine 0x7fffd4;
    AZURE azure 0xf0ffff;
    BEIGE beige 0xf5f5dc;
    BISQUE bisque 0xffe4c4;
    BLACK black 0x000000;
    BLANCHEDALMOND blanchedalmond 0xffebcd;
    BLUE blue 0x0000ff;
    BLUEVIOLET blueviolet 0x8a2be2;
    BROWN brown 0xa52a2a;
    BURLYWOOD burlywood 0xdeb887;
    CADETBLUE cadetblue 0x5f9ea0;
    CHARTREUSE chartreuse 0x7fff00;
    CHOCOLATE chocolate 0xd2691e;
    CORAL coral 0xff7f50;
    CORNFLOWERBLUE cornflowerblue 0x6495ed;
    CORNSILK cornsilk 0xfff8dc;
    CRIMSON crimson 0xdc143c;
    CYAN cyan 0x00ffff;
    DARKBLUE darkblue 0x00008b;
    DARKCYAN darkcyan 0x008b8b;
    DARKGOLDENROD darkgoldenrod 0xb8860b;
    DARKGRAY darkgray 0xa9a9a9;
    DARKGREEN darkgreen 0x006400;
    DARKKHAKI darkkhaki 0xbdb76b;
    DARKMAGENTA darkmagenta 0x8b008b;
    DARKOLIVEGREEN darkolivegreen 0x556b2f;
    DARKORANGE darkorange 0xff8c00;
    DARKORCHID darkorchid 0x9932cc;
    DARKRED darkred 0x8b0000;
    DARKSALMON darksalmon 0xe9967a;
    DARKSEAGREEN darkseagreen 0x8fbc8f;
    DARKSLATEBLUE darkslateblue 0x483d8b;
    DARKSLATEGRAY darkslategray 0x2f4f4f;
    DARKTURQUOISE darkturquoise 0x00ced1;
    DARKVIOLET darkviolet 0x9400d3;
    DEEPPINK deeppink 0xff1493;
    DEEPSKYBLUE deepskyblue 0x00bfff;
    DIMGRAY dimgray 0x696969;
    DODGERBLUE dodgerblue 0x1e90ff;
    FIREBRICK firebrick 0xb22222;
    FLORALWHITE floralwhite 0xfffaf0;
    FORESTGREEN forestgreen 0x228b22;
    FUCHSIA fuchsia 0xff00ff;
    GAINSBORO gainsboro 0xdcdcdc;
    GHOSTWHITE ghostwhite 0xf8f8ff;
    GOLD gold 0xffd700;
    GOLDENROD goldenrod 0xdaa520;
    GRAY gray 0x808080;
    GREEN green 0x008000;
    GREENYELLOW greenyellow 0xadff2f;
    HONEYDEW honeydew 0xf0fff0;
    HOTPINK hotpink 0xff69b4;
    INDIANRED indianred 0xcd5c5c;
    INDIGO indigo 0x4b0082;
    IVORY ivory 0xfffff0;
    KHAKI khaki 0xf0e68c;
    LAVENDER lavender 0xe6e6fa;
    LAVENDERBLUSH lavenderblush 0xfff0f5;
    LAWNGREEN lawngreen 0x7cfc00;
    LEMONCHIFFON lemonchiffon 0xfffacd;
    LIGHTBLUE lightblue 0xadd8e6;
    LIGHTCORAL lightcoral 0xf08080;
    LIGHTCYAN lightcyan 0xe0ffff;
    LIGHTGOLDENRODYELLOW lightgoldenrodyellow 0xfafad2;
    LIGHTGRAY lightgray 0xd3d3d3;
    LIGHTGREEN lightgreen 0x90ee90;
    LIGHTPINK lightpink 0xffb6c1;
    LIGHTSALMON lightsalmon 0xffa07a;
    LIGHTSEAGREEN lightseagreen 0x20b2aa;
    LIGHTSKYBLUE lightskyblue 0x87cefa;
    LIGHTSLATEGRAY lightslategray 0x778899;
    LIGHTSTEELBLUE lightsteelblue 0xb0c4de;
    LIGHTYELLOW lightyellow 0xffffe0;
    LIME lime 0x00ff00;
    LIMEGREEN limegreen 0x32cd32;
    LINEN linen 0xfaf0e6;
    MAGENTA magenta 0xff00ff;
    MAROON maroon 0x800000;
    MEDIUMAQUAMARINE mediumaquamarine 0x66cdaa;
    MEDIUMBLUE mediumblue 0x0000cd;
    MEDIUMORCHID mediumorchid 0xba55d3;
    MEDIUMPURPLE mediumpurple 0x9370db;
    MEDIUMSEAGREEN mediumseagreen 0x3cb371;
    MEDIUMSLATEBLUE mediumslateblue 0x7b68ee;
    MEDIUMSPRINGGREEN mediumspringgreen 0x00fa9a;
    MEDIUMTURQUOISE mediumturquoise 0x48d1cc;
    MEDIUMVIOLETRED mediumvioletred 0xc71585;
    MIDNIGHTBLUE midnightblue 0x191970;
    MINTCREAM mintcream 0xf5fffa;
    MISTYROSE mistyrose 0xffe4e1;
    MOCCASIN moccasin 0xffe4b5;
    NAVAJOWHITE navajowhite 0xffdead;
    NAVY navy 0x000080;
    OLDLACE oldlace 0xfdf5e6;
    OLIVE olive 0x808000;
    OLIVEDRAB olivedrab 0x6b8e23;
    ORANGE orange 0xffa500;
    ORANGERED orangered 0xff4500;
    ORCHID orchid 0xda70d6;
    PALEGOLDENROD palegoldenrod 0xeee8aa;
    PALEGREEN palegreen 0x98fb98;
    PALETURQUOISE paleturquoise 0xafeeee;
    PALEVIOLETRED palevioletred 0xdb7093;
    PAPAYAWHIP papayawhip 0xffefd5;
    PEACHPUFF peachpuff 0xffdab9;
    PERU peru 0xcd853f;
    PINK pink 0xffc0cb;
    PLUM plum 0xdda0dd;
    POWDERBLUE powderblue 0xb0e0e6;
    PURPLE purple 0x800080;
    REBECCAPURPLE rebeccapurple 0x663399;
    RED red 0xff0000;
    ROSYBROWN rosybrown 0xbc8f8f;
    ROYALBLUE royalblue 0x4169e1;
    SADDLEBROWN saddlebrown 0x8b4513;
    SALMON salmon 0xfa8072;
    SANDYBROWN sandybrown 0xf4a460;
    SEAGREEN seagreen 0x2e8b57;
    SEASHELL seashell 0xfff5ee;
    SIENNA sienna 0xa0522d;
    SILVER silver 0xc0c0c0;
    SKYBLUE skyblue 0x87ceeb;
    SLATEBLUE slateblue 0x6a5acd;
    SLATEGRAY slategray 0x708090;
    SNOW snow 0xfffafa;
    SPRINGGREEN springgreen 0x00ff7f;
    STEELBLUE steelblue 0x4682b4;
    TAN tan 0xd2b48c;
    TEAL teal 0x008080;
    THISTLE thistle 0xd8bfd8;
    TOMATO tomato 0xff6347;
    TURQUOISE turquoise 0x40e0d0;
    VIOLET violet 0xee82ee;
    WHEAT wheat 0xf5deb3;
    WHITE white 0xffffff;
    WHITESMOKE whitesmoke 0xf5f5f5;
    YELLOW yellow 0xffff00;
    YELLOWGREEN yellowgreen 0x9acd32;
}
