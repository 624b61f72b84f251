//! The faces, stacks and strikes of a manifest.

use super::entries::FaceEntry;
use super::sources::Source;
use super::{Manifest, StrikePlan, find, sizes};
use crate::bake::error::BakeError;
use crate::bake::inputs::Inputs;
use crate::base::{Color, Spanned};
use crate::font::{Face, FontError, Synthesis, Tag};
use crate::markup::EffectRecord;
use crate::text::Effect;

impl Manifest {
    pub(super) fn add_faces(
        &mut self,
        sources: &[Source],
        inputs: &mut Inputs,
    ) -> Result<(), BakeError> {
        for source in sources {
            for (name, entry) in &source.entry.faces {
                source.check_new("face", name, self.face_names())?;
                let face = open(source, entry, inputs)?;
                self.faces.push((name.get_ref().clone(), face));
            }
        }
        for source in sources {
            for (name, members) in &source.entry.stacks {
                let known = self.stacks.iter().map(|(name, _)| name.as_str());
                source.check_new("stack", name, known)?;
                if members.is_empty() {
                    let problem = format!("the stack “{}” has no faces", name.get_ref());
                    return Err(source.error(name.span(), problem));
                }
                let members = members
                    .iter()
                    .map(|face| find("face", face, self.face_names(), source));
                let members: Vec<usize> = members.collect::<Result<_, _>>()?;
                self.stacks.push((name.get_ref().clone(), members));
            }
        }
        Ok(())
    }

    fn face_names(&self) -> impl Iterator<Item = &str> + Clone {
        self.faces.iter().map(|(name, _)| name.as_str())
    }

    pub(super) fn add_strikes(&mut self, sources: &[Source]) -> Result<(), BakeError> {
        for source in sources {
            for entry in &source.entry.strikes {
                let (name, faces) = match (&entry.face, &entry.stack) {
                    (Some(face), None) => {
                        (face, vec![find("face", face, self.face_names(), source)?])
                    }
                    (None, Some(stack)) => {
                        let known = self.stacks.iter().map(|(name, _)| name.as_str());
                        let index = find("stack", stack, known, source)?;
                        (stack, self.stacks[index].1.clone())
                    }
                    _ => {
                        let problem = "a strike is of a `face` or of a `stack`".to_owned();
                        return Err(source.error(entry.sizes.span(), problem));
                    }
                };
                let known = self.charsets.iter().map(|(name, _)| name.as_str());
                let charsets = entry.charsets.get_ref().iter();
                let charsets: Vec<usize> = charsets
                    .map(|charset| find("charset", charset, known.clone(), source))
                    .collect::<Result<_, _>>()?;
                if charsets.is_empty() {
                    let problem = "a strike needs a charset: the characters to bake".to_owned();
                    return Err(source.error(entry.charsets.span(), problem));
                }
                self.strikes.push(StrikePlan {
                    name: name.get_ref().clone(),
                    faces,
                    sizes: sizes(source, &entry.sizes)?,
                    edges: entry.edges,
                    effects: effects(source, &entry.effects)?,
                    charsets,
                    features: features(source, &entry.features)?,
                });
            }
        }
        Ok(())
    }
}

/// The features of a strike.
fn features(source: &Source, names: &[Spanned<String>]) -> Result<Vec<Tag>, BakeError> {
    let tag = |name: &Spanned<String>| {
        Tag::from_name(name.get_ref()).ok_or_else(|| {
            let problem = format!(
                "“{}” is no feature; write a tag such as tnum",
                name.get_ref()
            );
            source.error(name.span(), problem)
        })
    };
    names.iter().map(tag).collect()
}

/// The effects of a strike. Their colours are read as in a style and then left aside.
fn effects(source: &Source, records: &[Spanned<EffectRecord>]) -> Result<Vec<Effect>, BakeError> {
    let effect = |record: &Spanned<EffectRecord>| {
        let color = |text: &Spanned<String>| {
            let color = text.get_ref().parse::<Color>();
            color.map_err(|error| source.error(text.span(), error.to_string()))
        };
        let wrong = |problem| source.error(record.span(), problem);
        record.get_ref().effect(color, wrong)
    };
    records.iter().map(effect).collect()
}

/// Opens the face of an entry.
fn open(source: &Source, entry: &FaceEntry, inputs: &mut Inputs) -> Result<Face, BakeError> {
    let path = source.folder.join(entry.file.get_ref());
    let failed = |at: &Spanned<String>, error: FontError| {
        let problem = format!("cannot use “{}”", at.get_ref());
        source.error_in(at.span(), problem, error)
    };
    let in_file = |error| failed(&entry.file, error);
    let limits = inputs.reader().limits().clone();
    let read = |path: &std::path::Path| inputs.read(path);
    let mut face = Face::from_files(&path, entry.face, limits, read).map_err(in_file)?;
    if let Some(pixels) = entry.strike {
        face = face.strike(pixels).map_err(in_file)?;
    }
    let mut axes = Vec::new();
    for (axis, value) in &entry.axes {
        let Some(tag) = Tag::from_name(axis.get_ref()) else {
            let problem = format!("“{}” is no axis; write a tag such as wght", axis.get_ref());
            return Err(source.error(axis.span(), problem));
        };
        axes.push((tag, *value));
    }
    if !axes.is_empty() {
        face = face.instance(&axes).map_err(in_file)?;
    }
    if entry.bold || entry.slant {
        let synthesis = Synthesis {
            embolden: if entry.bold {
                Synthesis::BOLD.embolden
            } else {
                0.0
            },
            slant: if entry.slant {
                Synthesis::OBLIQUE.slant
            } else {
                0.0
            },
        };
        face = face.synthesized(synthesis).map_err(in_file)?;
    }
    Ok(face)
}
