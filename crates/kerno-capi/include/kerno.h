/* Kerno from C. Made of the crate kerno-capi: change that instead. */

#ifndef KERNO_H
#define KERNO_H

#include <stdarg.h>
#include <stdbool.h>
#include <stddef.h>
#include <stdint.h>
#include <stdlib.h>

// The end of a call.
typedef enum KernoStatus {
  // As it should.
  KERNO_STATUS_OK = 0,
  // A pointer is null that may not be.
  KERNO_STATUS_NULL_POINTER = 1,
  // A handle was freed, or is of another type.
  KERNO_STATUS_STALE_HANDLE = 2,
  // A string is not UTF-8.
  KERNO_STATUS_NOT_UTF8 = 3,
  // A number or a name is out of range.
  KERNO_STATUS_BAD_ARGUMENT = 4,
  // A file or its content is wrong.
  KERNO_STATUS_BAD_INPUT = 5,
  // A fault of Kerno itself; the handles of the call should be freed.
  KERNO_STATUS_INTERNAL = 6,
} KernoStatus;

// A change of the target before a batch.
typedef enum KernoPass {
  // Nothing.
  KERNO_PASS_SAME = 0,
  // A group begins on a clear target.
  KERNO_PASS_BEGIN = 1,
  // A group ends: it is laid over what is below.
  KERNO_PASS_END = 2,
} KernoPass;

// Kinds of events of a scene.
typedef enum KernoEventKind {
  // A line begins: `index` is its number, `text` who speaks.
  KERNO_EVENT_KIND_LINE = 0,
  // A letter appears: `index` is the number of its cluster.
  KERNO_EVENT_KIND_CLUSTER = 1,
  // A cue: `text` is its name.
  KERNO_EVENT_KIND_CUE = 2,
  // The player has to choose.
  KERNO_EVENT_KIND_CHOICES = 3,
  // An answer was chosen: `index` is its number in the line.
  KERNO_EVENT_KIND_CHOSEN = 4,
  // The scene is over.
  KERNO_EVENT_KIND_END = 5,
  // Something else: pages, rests.
  KERNO_EVENT_KIND_OTHER = 6,
} KernoEventKind;

// Kinds of pages.
typedef enum KernoPageKind {
  // One byte a texel: coverage.
  KERNO_PAGE_KIND_MASK = 0,
  // Four bytes a texel: sRGB, multiplied by alpha.
  KERNO_PAGE_KIND_COLOR = 1,
} KernoPageKind;

// Horizontal alignment of lines that are shorter than the block (CSS `text-align`).
typedef enum KernoAlign {
  // To the side where reading starts.
  KERNO_ALIGN_START = 0,
  // In the middle.
  KERNO_ALIGN_CENTER = 1,
  // To the side where reading ends.
  KERNO_ALIGN_END = 2,
  // From side to side.
  KERNO_ALIGN_JUSTIFY = 3,
} KernoAlign;

// Line wrapping (CSS `text-wrap`).
typedef enum KernoWrap {
  // Nowhere but at line breaks.
  KERNO_WRAP_NONE = 0,
  // Each line takes as much as it can.
  KERNO_WRAP_GREEDY = 1,
  // Lines of about one length.
  KERNO_WRAP_BALANCED = 2,
  // The evenest lines together.
  KERNO_WRAP_OPTIMAL = 3,
} KernoWrap;

// Treatment of text that does not fit (CSS `overflow`, `text-overflow`).
typedef enum KernoOverflow {
  // It overflows the block.
  KERNO_OVERFLOW_VISIBLE = 0,
  // It is cut off at the block's border.
  KERNO_OVERFLOW_CLIP = 1,
  // The last line that fits ends with an ellipsis.
  KERNO_OVERFLOW_ELLIPSIS = 2,
} KernoOverflow;

// An atlas of pictures, and what gathers frames with it.
typedef struct KernoDrawing KernoDrawing;

// A font in one style.
typedef struct KernoFace KernoFace;

// Fonts and pictures that were baked ahead of time.
typedef struct KernoPack KernoPack;

// A scene at work.
typedef struct KernoScene KernoScene;

// A HUD of a screen file.
typedef struct KernoScreen KernoScreen;

// A text with the place of every glyph.
typedef struct KernoText KernoText;

// Metrics of a face at a size, in design pixels; the descender is below zero.
typedef struct KernoMetrics {
  // From the baseline up to the top of the tallest letters.
  float ascender;
  // From the baseline down to the bottom of the deepest letters, below zero.
  float descender;
  // Space between two lines.
  float line_gap;
  // Height of capital letters; 0 where the font does not say.
  float cap_height;
  // Height of small letters; 0 where the font does not say.
  float x_height;
} KernoMetrics;

// A place or an offset, in design pixels, y down.
typedef struct KernoPoint {
  // Rightwards.
  float x;
  // Downwards.
  float y;
} KernoPoint;

// A colour: 8-bit sRGB, straight alpha.
typedef struct KernoColor {
  // Red.
  uint8_t red;
  // Green.
  uint8_t green;
  // Blue.
  uint8_t blue;
  // Alpha: 0 is clear, 255 opaque.
  uint8_t alpha;
} KernoColor;

// The look of a text. Begin with `kerno_style` and change what should be other.
typedef struct KernoStyle {
  // The face; the style does not own it.
  const struct KernoFace *face;
  // Size of an em in design pixels.
  float size;
  // Extra space after each letter, in design pixels.
  float letter_spacing;
  // Width of an outline around the letters, in design pixels; 0 for none.
  float outline_width;
  // Blur of a shadow, in design pixels.
  float shadow_blur;
  // Offset of the shadow.
  struct KernoPoint shadow_offset;
  // Colour of the letters.
  struct KernoColor color;
  // Colour of the outline.
  struct KernoColor outline_color;
  // Colour of the shadow; there is none where it is clear.
  struct KernoColor shadow_color;
  // All digits as wide as each other.
  bool tabular;
} KernoStyle;

// The block that a text fills. Begin with `kerno_options`. Enums are numbers here, so that one
// out of range can be told.
typedef struct KernoOptions {
  // Width of the block, in design pixels; 0 for as wide as the text.
  float width;
  // Height of the block; 0 for as high as the lines.
  float height;
  // The most lines; 0 for any number.
  uint32_t max_lines;
  // A `KernoAlign`.
  uint32_t align;
  // A `KernoWrap`.
  uint32_t wrap;
  // A `KernoOverflow`.
  uint32_t overflow;
} KernoOptions;

// A size in design pixels.
typedef struct KernoSize {
  // Across.
  float width;
  // Down.
  float height;
} KernoSize;

// A rectangle in design pixels, half-open.
typedef struct KernoRect {
  // Left edge.
  float x;
  // Top edge.
  float y;
  // Across.
  float width;
  // Down.
  float height;
} KernoRect;

// A line of a text, in design pixels from the top left of the block.
typedef struct KernoLine {
  // Left edge.
  float x;
  // Top edge.
  float top;
  // Width without spaces at its end.
  float width;
  // Height.
  float height;
  // Baseline, from the line's top.
  float baseline;
  // Number of the first cluster.
  size_t first_cluster;
  // Number of clusters.
  size_t cluster_count;
} KernoLine;

// Layer, opacity and transform of what is drawn within.
typedef struct KernoScope {
  // Layer above the one around, as CSS's z-index.
  int32_t layer;
  // Opacity, 0 to 1.
  float opacity;
  // Transform a, b, c, d, e, f: x' = ax + cy + e, y' = bx + dy + f.
  float transform[6];
  // True if `clip` is used.
  bool clips;
  // Nothing is drawn outside of it.
  struct KernoRect clip;
} KernoScope;

// A vertex, 20 bytes; docs/drawing.md says how it is drawn.
typedef struct KernoVertex {
  // Device pixels from the window's top left, rightwards and downwards.
  float position[2];
  // Place on the page, in 1/8 texel.
  uint16_t texel[2];
  // sRGB, multiplied by alpha.
  uint8_t color[4];
  // Kind of shading: 0 solid, 1 mask, 4 colour, 5 veiled mask.
  uint8_t kind;
  // Index of the page among those of its kind.
  uint8_t page;
  // See docs/drawing.md.
  uint8_t edge;
  // See docs/drawing.md.
  uint8_t softness;
} KernoVertex;

// Quads that are drawn in one call.
typedef struct KernoBatch {
  // First index.
  uint32_t first_index;
  // Number of indices.
  uint32_t index_count;
  // The change before it.
  enum KernoPass pass;
  // Opacity of the group that ends, 0 to 255.
  uint8_t opacity;
} KernoBatch;

// A frame: vertices, indices (six a quad) and batches. The pointers stay valid until the next
// call with the handle that the frame came from.
typedef struct KernoFrame {
  // Vertices.
  const struct KernoVertex *vertices;
  // Number of vertices.
  size_t vertex_count;
  // Indices.
  const uint32_t *indices;
  // Number of indices.
  size_t index_count;
  // Batches, in the order in which they are drawn.
  const struct KernoBatch *batches;
  // Number of batches.
  size_t batch_count;
} KernoFrame;

// A page of the atlas. The pointer stays valid until the next call with its drawing.
typedef struct KernoPage {
  // Rows of texels, from the top, without gaps.
  const uint8_t *texels;
  // Width in texels.
  uint16_t width;
  // Height in texels.
  uint16_t height;
  // Goes up whenever the page changes; keep it, and hand it in next time.
  uint64_t revision;
  // The rectangle to upload: its left edge.
  uint16_t changed_x;
  // Its top edge.
  uint16_t changed_y;
  // Its width; 0 where nothing changed.
  uint16_t changed_width;
  // Its height.
  uint16_t changed_height;
} KernoPage;

// Something that happened in a scene.
typedef struct KernoEvent {
  // Its kind.
  enum KernoEventKind kind;
  // A number, by the kind.
  size_t index;
  // A text, by the kind; null where there is none. It is valid during the call.
  const char *text;
} KernoEvent;

// A hearer of events: it gets the pointer that was handed in, and the event. It may not use the
// scene, and may not jump out.
typedef void (*KernoEventHandler)(void*, const struct KernoEvent*);

#ifdef __cplusplus
extern "C" {
#endif // __cplusplus

// The sentence that says what was wrong in the call that failed last on this thread; empty
// where none did. It stays valid until the next call fails on this thread.
const char *kerno_error_message(void);

// The stable code of the failure that came last on this thread, such as `font-table`; empty
// where none came. It stays valid until the next call fails on this thread.
const char *kerno_error_code(void);

// Opens a font file.
enum KernoStatus kerno_face_open(const char *path, struct KernoFace **out);

// Opens a font from its bytes, which are copied; `index` counts the faces of a collection
// from 0.
enum KernoStatus kerno_face_from_bytes(const uint8_t *first,
                                       size_t count,
                                       uint32_t index,
                                       struct KernoFace **out);

// Metrics of a face at a size in design pixels an em.
enum KernoStatus kerno_face_metrics(const struct KernoFace *face,
                                    float size,
                                    struct KernoMetrics *out);

// Frees a face.
void kerno_face_free(struct KernoFace *face);

// Opens a baked pack.
enum KernoStatus kerno_pack_open(const char *path, struct KernoPack **out);

// A face of a pack, by the name that the manifest gave it.
enum KernoStatus kerno_pack_face(const struct KernoPack *pack,
                                 const char *name,
                                 struct KernoFace **out);

// Frees a pack.
void kerno_pack_free(struct KernoPack *pack);

// A plain white style of a face and a size.
// The face is only kept; it is looked at when a text is laid out.
struct KernoStyle kerno_style(const struct KernoFace *face, float size);

// Options of a text that is as wide as it has to be.
struct KernoOptions kerno_options(void);

// Lays out a text. `layout` may be null: it is as wide as it has to be then.
enum KernoStatus kerno_text_new(const char *text,
                                const struct KernoStyle *look,
                                const struct KernoOptions *layout,
                                struct KernoText **out);

// Sets other words, in the same style and block.
enum KernoStatus kerno_text_set(struct KernoText *text, const char *words);

// Size of a text's block.
enum KernoStatus kerno_text_size(const struct KernoText *text, struct KernoSize *out);

// The rectangle of what is drawn of a text, from the top left of its block.
enum KernoStatus kerno_text_ink(const struct KernoText *text, struct KernoRect *out);

// Number of lines; 0 for a handle that is null or was freed.
size_t kerno_text_line_count(const struct KernoText *text);

// A line, by its number from 0.
enum KernoStatus kerno_text_line(const struct KernoText *text, size_t index, struct KernoLine *out);

// Number of clusters, the letters as one sees them; 0 for a handle that is null or was freed.
size_t kerno_text_cluster_count(const struct KernoText *text);

// Frees a text.
void kerno_text_free(struct KernoText *text);

// An empty drawing. `page_side` is the side of its pages in texels, 16 to 4096; 0 for 1024.
enum KernoStatus kerno_drawing_new(uint16_t page_side, struct KernoDrawing **out);

// A drawing with the pictures of a pack. Screens find their sprites among them.
enum KernoStatus kerno_drawing_from_pack(const struct KernoPack *pack, struct KernoDrawing **out);

// Adds a sprite: `pixels` is rows of red, green, blue and straight alpha, from the top.
// `pixels` points to `width` × `height` × 4 bytes.
enum KernoStatus kerno_drawing_add_sprite(struct KernoDrawing *drawing,
                                          const char *name,
                                          uint32_t width,
                                          uint32_t height,
                                          const uint8_t *pixels);

// Adds the sprites of a folder of PNGs or of a manifest; once, if it is called again.
enum KernoStatus kerno_drawing_add_sprites(struct KernoDrawing *drawing, const char *path);

// Begins a frame. A design pixel is `scale` device pixels, and the design's top left lies at
// `origin`, in device pixels.
enum KernoStatus kerno_drawing_begin(struct KernoDrawing *drawing,
                                     float scale,
                                     struct KernoPoint origin);

// A scope that changes nothing, to be filled in.
struct KernoScope kerno_scope(void);

// Opens a scope within the one at hand: what is drawn until `kerno_drawing_pop` is in it.
enum KernoStatus kerno_drawing_push(struct KernoDrawing *drawing, const struct KernoScope *scope);

// Closes the scope that was opened last.
enum KernoStatus kerno_drawing_pop(struct KernoDrawing *drawing);

// Draws a text: the point `anchor` of its block (0, 0 top left, 1, 1 bottom right) lies at
// `at`. Of its clusters the first `visible` are drawn; `SIZE_MAX` for all.
enum KernoStatus kerno_drawing_text(struct KernoDrawing *drawing,
                                    const struct KernoText *text,
                                    struct KernoPoint at,
                                    struct KernoPoint anchor,
                                    size_t visible);

// Draws a rectangle with round corners of a radius.
enum KernoStatus kerno_drawing_rect(struct KernoDrawing *drawing,
                                    struct KernoRect rect,
                                    float radius,
                                    struct KernoColor color);

// Draws a line.
enum KernoStatus kerno_drawing_line(struct KernoDrawing *drawing,
                                    struct KernoPoint from,
                                    struct KernoPoint to,
                                    float width,
                                    struct KernoColor color);

// Draws a sprite in a rectangle, multiplied by a colour. A nine-slice keeps its corners.
enum KernoStatus kerno_drawing_sprite(struct KernoDrawing *drawing,
                                      const char *name,
                                      struct KernoRect rect,
                                      struct KernoColor tint);

// Ends the frame and hands it out.
enum KernoStatus kerno_drawing_finish(struct KernoDrawing *drawing, struct KernoFrame *out);

// Draws the frame that was finished last over pixels in memory: rows of red, green, blue and
// alpha, multiplied by it, from the top.
// `pixels` points to `width` × `height` × 4 bytes.
enum KernoStatus kerno_drawing_paint(struct KernoDrawing *drawing,
                                     uint32_t width,
                                     uint32_t height,
                                     uint8_t *pixels);

// Number of pages of a kind (a `KernoPageKind`); 0 for a handle that is null or was freed.
size_t kerno_drawing_page_count(const struct KernoDrawing *drawing, uint32_t kind);

// A page, with the rectangle that changed after `revision`; 0 for all of it.
enum KernoStatus kerno_drawing_page(const struct KernoDrawing *drawing,
                                    uint32_t kind,
                                    size_t index,
                                    uint64_t revision,
                                    struct KernoPage *out);

// Frees a drawing.
void kerno_drawing_free(struct KernoDrawing *drawing);

// Opens a screen file with the sprites that it names, which are added to the drawing if no
// pack has brought them. Use the
// screen with that drawing alone; several screens may share one.
enum KernoStatus kerno_screen_open(const char *path,
                                   struct KernoDrawing *drawing,
                                   struct KernoScreen **out);

// Sets a value that is a number.
enum KernoStatus kerno_screen_set_number(struct KernoScreen *screen,
                                         const char *name,
                                         double number);

// Sets a value that is a text.
enum KernoStatus kerno_screen_set_text(struct KernoScreen *screen,
                                       const char *name,
                                       const char *text);

// Sets a value that is true or false.
enum KernoStatus kerno_screen_set_flag(struct KernoScreen *screen, const char *name, bool flag);

// Sets a value that is a point: the place of an element in the world.
enum KernoStatus kerno_screen_set_point(struct KernoScreen *screen,
                                        const char *name,
                                        struct KernoPoint point);

// Sets the language of the texts, by its tag.
enum KernoStatus kerno_screen_set_language(struct KernoScreen *screen,
                                           struct KernoDrawing *drawing,
                                           const char *language);

// Moves time on by some seconds, 0 or more.
enum KernoStatus kerno_screen_advance(struct KernoScreen *screen, double seconds);

// The frame of a screen in a window of a size in device pixels. `text_scale` is what a reader
// asks for, 0.5 to 3. A window of 0 × 0 gives a frame with nothing in it.
enum KernoStatus kerno_screen_frame(struct KernoScreen *screen,
                                    struct KernoDrawing *drawing,
                                    uint32_t width,
                                    uint32_t height,
                                    float text_scale,
                                    struct KernoFrame *out);

// Draws a screen over pixels in memory, as `kerno_screen_frame` and `kerno_drawing_paint` do.
// `pixels` points to `width` × `height` × 4 bytes.
enum KernoStatus kerno_screen_paint(struct KernoScreen *screen,
                                    struct KernoDrawing *drawing,
                                    uint32_t width,
                                    uint32_t height,
                                    float text_scale,
                                    uint8_t *pixels);

// The rectangle of an element, as it was arranged last.
enum KernoStatus kerno_screen_element_rect(const struct KernoScreen *screen,
                                           const char *name,
                                           struct KernoRect *out);

// The room that a dialogue element has for its lines: for `kerno_scene_open`. Ask for it after
// a frame.
enum KernoStatus kerno_screen_dialogue_room(const struct KernoScreen *screen,
                                            const char *name,
                                            struct KernoSize *out);

// Shows the line at hand of a scene in a dialogue element. Call it in every frame.
enum KernoStatus kerno_screen_show_scene(struct KernoScreen *screen,
                                         const char *name,
                                         const struct KernoScene *scene);

// Frees a screen.
void kerno_screen_free(struct KernoScreen *screen);

// Opens a scene file for a box of a size, in design pixels.
enum KernoStatus kerno_scene_open(const char *path, struct KernoSize room, struct KernoScene **out);

// Moves a scene on by some seconds, 0 or more; `handler` may be null.
enum KernoStatus kerno_scene_advance(struct KernoScene *scene,
                                     double seconds,
                                     KernoEventHandler handler,
                                     void *user);

// The key was pressed: shows all of the page, or goes on.
enum KernoStatus kerno_scene_press(struct KernoScene *scene, KernoEventHandler handler, void *user);

// Chooses an answer, by its number from 0 among those that are offered.
enum KernoStatus kerno_scene_choose(struct KernoScene *scene,
                                    size_t answer,
                                    KernoEventHandler handler,
                                    void *user);

// Number of answers that are offered now.
enum KernoStatus kerno_scene_choice_count(const struct KernoScene *scene, size_t *out);

// Returns whether a scene is over; true for a handle that is null or was freed.
bool kerno_scene_is_over(const struct KernoScene *scene);

// Frees a scene.
void kerno_scene_free(struct KernoScene *scene);

#ifdef __cplusplus
}  // extern "C"
#endif  // __cplusplus

#endif  /* KERNO_H */
