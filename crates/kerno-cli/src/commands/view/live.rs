//! A screen or a scene at work.

use kerno::base::{DevicePoint, DeviceRect};
use kerno::dialogue::ScenePlayer;
use kerno::draw::Frame;
use kerno::screen::Screen;
use kerno::{Atlas, DeviceSize, Viewport};

use super::ViewArgs;
use super::subject::Hovered;
use crate::commands::play::OpenScene;
use crate::commands::render::{file_values, open_screen, set, typed_value};
use crate::error::CliError;

/// A screen at work, with the scene that is played on it.
pub(super) struct Live {
    screen: Screen,
    atlas: Atlas,
    /// A scene, and the dialogue element that shows it.
    scene: Option<(ScenePlayer, String)>,
    /// The window when it was drawn last.
    view: Option<Viewport>,
}

impl Live {
    /// Opens a screen file.
    pub(super) fn screen(args: &ViewArgs) -> Result<Self, CliError> {
        let (mut screen, mut atlas) = open_screen(&args.file, &args.files.of(&args.file)?)?;
        if let Some(language) = &args.language {
            screen.set_language(language, &mut atlas)?;
        }
        let settings = file_values(args.values.as_deref(), &args.files)?;
        for (name, value) in settings.iter().chain(&args.settings) {
            set(&mut screen, name, value)?;
        }
        screen.settle();
        Ok(Self {
            screen,
            atlas,
            scene: None,
            view: None,
        })
    }

    /// Opens a scene file on the screen that it names.
    pub(super) fn scene(args: &ViewArgs) -> Result<Self, CliError> {
        let open = OpenScene::new(&args.file, &args.files)?.on_stage(args.window.0)?;
        let (screen, atlas, mut player) = (open.screen, open.atlas, open.player);
        let settings = file_values(args.values.as_deref(), &args.files)?;
        for (name, text) in settings.iter().chain(&args.settings) {
            let declared = player.scene().values().iter().find(|own| own.name == *name);
            let value = typed_value(declared.map(|own| &own.start), name, text)?;
            player.set(name, value)?;
        }
        let mut live = Self {
            screen,
            atlas,
            scene: Some((player, open.element)),
            view: None,
        };
        if let Some(language) = &args.language {
            live.set_language(language)?;
        }
        Ok(live)
    }

    pub(super) fn advance(&mut self, seconds: f64) -> Result<(), CliError> {
        self.screen.advance(seconds);
        if let Some((player, _)) = &mut self.scene {
            player.advance(seconds, &mut |_| {})?;
        }
        Ok(())
    }

    pub(super) fn frame(
        &mut self,
        window: DeviceSize,
        text_scale: f32,
    ) -> Result<(Frame<'_>, &Atlas), CliError> {
        if let Some((player, element)) = &self.scene {
            self.screen.show_dialogue(element, player)?;
        }
        let view = self.screen.viewport(window)?.with_text_scale(text_scale);
        self.view = Some(view);
        Ok((self.screen.frame(&mut self.atlas, &view)?, &self.atlas))
    }

    /// The key that goes on was pressed.
    pub(super) fn press(&mut self) -> Result<(), CliError> {
        if let Some((player, _)) = &mut self.scene {
            player.press(&mut |_| {})?;
        }
        Ok(())
    }

    /// Chooses an answer, counted from 0, if it is offered.
    pub(super) fn choose(&mut self, answer: usize) -> Result<(), CliError> {
        if let Some((player, _)) = &mut self.scene
            && answer < player.choices().len()
        {
            player.choose(answer, &mut |_| {})?;
        }
        Ok(())
    }

    pub(super) fn language(&self) -> &str {
        match &self.scene {
            Some((player, _)) => player.language(),
            None => self.screen.language(),
        }
    }

    /// Goes to the next of the languages that there are.
    pub(super) fn next_language(&mut self) -> Result<(), CliError> {
        let languages: Vec<String> = match &self.scene {
            Some((player, _)) => player.languages().map(str::to_owned).collect(),
            None => self.screen.languages().map(str::to_owned).collect(),
        };
        let at = languages.iter().position(|known| known == self.language());
        let next = at.map_or(0, |at| at + 1) % languages.len().max(1);
        match languages.get(next) {
            Some(next) => self.set_language(next),
            None => Ok(()),
        }
    }

    fn set_language(&mut self, language: &str) -> Result<(), CliError> {
        if let Some((player, _)) = &mut self.scene {
            player.set_language(language)?;
        }
        if self.scene.is_none() || self.screen.languages().any(|known| known == language) {
            self.screen.set_language(language, &mut self.atlas)?;
        }
        Ok(())
    }

    /// The element at a place of the window, with its measures in design pixels.
    pub(super) fn hovered(&self, at: DevicePoint) -> Option<Hovered> {
        let view = self.view?;
        let name = self.screen.element_at(view.design_point(at))?;
        let rect = self.screen.element_rect(name)?;
        let (width, height, x, y) = (rect.width, rect.height, rect.x, rect.y);
        let mut told = format!("{name}\n{width:.1} × {height:.1} at {x:.1}, {y:.1}");
        if let Some(text) = self.screen.text(name) {
            let size = text.styles().first().map_or(0.0, |style| style.size);
            let baseline = text.first_baseline();
            let lines = match text.lines().len() {
                1 => "1 line".to_owned(),
                count => format!("{count} lines"),
            };
            told += &format!("\n{size:.1} px, {lines}, baseline {baseline:.1} down");
        }
        let rect = view.mapping().rect(rect);
        Some(Hovered { rect, told })
    }

    pub(super) fn boxes(&self) -> Vec<(String, DeviceRect)> {
        let Some(view) = self.view else {
            return Vec::new();
        };
        let elements = self.screen.elements();
        elements
            .map(|(name, rect)| (name.to_owned(), view.mapping().rect(rect)))
            .collect()
    }

    /// Goes on where an earlier state was: in its language, and at its line if the scene still
    /// has it.
    pub(super) fn keep_place(&mut self, before: &Self) {
        if self.language() != before.language() {
            // A language that is gone leaves the first one.
            let _ = self.set_language(before.language());
        }
        if let (Some((own, _)), Some((before, _))) = (&mut self.scene, &before.scene) {
            // A line that is gone leaves the start.
            let _ = own.restore(&before.save());
        }
    }
}
