//! PNG in and out.

use kerno::base::{Image, ImageError, Limits};

fn checkers() -> Image {
    let pixels = (0..6_u8).flat_map(|n| [n * 40, 255 - n, 7, if n % 2 == 0 { 255 } else { 0 }]);
    Image::new(3, 2, pixels.collect()).expect("a size")
}

#[test]
fn a_png_comes_back_as_it_went() {
    let image = checkers();
    let png = image.to_png().expect("a PNG");
    assert_eq!(Image::from_png(&png).expect("a PNG"), image);
    assert_eq!(image.pixel(1, 1), Some([160, 251, 7, 255]));
    assert_eq!(image.pixel(3, 0), None);
}

#[test]
fn what_is_no_picture_is_refused() {
    let png = checkers().to_png().expect("a PNG");
    assert!(matches!(
        Image::from_png(b"GIF89a"),
        Err(ImageError::Decode(_))
    ));
    for length in 0..png.len() - 12 {
        assert!(Image::from_png(&png[..length]).is_err(), "cut at {length}");
    }
    assert!(matches!(
        Image::from_png_file("no/such.png"),
        Err(ImageError::Io { .. })
    ));
    // This very file is no picture; the error names it.
    let error = Image::from_png_file(file!().rsplit_once("kerno/").expect("a path").1);
    assert!(matches!(error, Err(ImageError::InFile { path, .. }) if path.ends_with("image.rs")));
    let length = Image::new(2, 2, vec![0; 15]);
    assert!(matches!(
        length,
        Err(ImageError::Length {
            wanted: 16,
            got: 15,
            ..
        })
    ));
    let empty = Image::new(0, 2, vec![]).expect("no pixels");
    assert!(matches!(empty.to_png(), Err(ImageError::Encode(_))));

    let mut limits = Limits::default();
    limits.image_pixels = 6;
    assert!(Image::from_png_with(&png, &limits).is_ok());
    limits.image_pixels = 5;
    let refused = Image::from_png_with(&png, &limits);
    assert!(matches!(
        refused,
        Err(ImageError::TooLarge { limit: 5, .. })
    ));
}
