/* A score in the top right corner, a HUD of a file, a scene of dialogue: Kerno from C.
 *
 *   score FOLDER PACK PICTURE.ppm
 *
 * FOLDER is demo/ferry of the repository, PACK what `kerno bake` makes of its ferry.toml. How it
 * is built: see the README of kerno-capi.
 */
#include <stdint.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

#include "kerno.h"

enum { WIDTH = 640, HEIGHT = 360 };

/* Ends the program where a call failed, with the sentence that says why. */
static void expect(KernoStatus status, const char *call) {
  if (status == KERNO_STATUS_OK) return;
  fprintf(stderr, "%s: %s (%s)\n", call, kerno_error_message(), kerno_error_code());
  exit(1);
}
#define EXPECT(call) expect((call), #call)

static char path[4096];
static const char *in(const char *folder, const char *name) {
  snprintf(path, sizeof path, "%s/%s", folder, name);
  return path;
}

/* Uploads what changed of the pages: an engine hands the rows to its GPU here. */
static size_t upload(const KernoDrawing *drawing, uint32_t kind, uint64_t *revisions) {
  size_t texels = 0;
  size_t count = kerno_drawing_page_count(drawing, kind);
  for (size_t index = 0; index < count && index < 8; index++) {
    KernoPage page;
    EXPECT(kerno_drawing_page(drawing, kind, index, revisions[index], &page));
    texels += (size_t)page.changed_width * page.changed_height;
    revisions[index] = page.revision;
  }
  return texels;
}

static void hear(void *user, const KernoEvent *event) {
  size_t *counts = user;
  counts[event->kind] += 1;
}

static void write_picture(const char *name, const uint8_t *pixels) {
  FILE *file = fopen(name, "wb");
  if (!file) {
    perror(name);
    exit(1);
  }
  fprintf(file, "P6\n%d %d\n255\n", WIDTH, HEIGHT);
  for (size_t at = 0; at < (size_t)WIDTH * HEIGHT; at++) fwrite(&pixels[at * 4], 1, 3, file);
  fclose(file);
}

int main(int count, char **arguments) {
  if (count != 4) {
    fprintf(stderr, "usage: %s FOLDER PACK PICTURE.ppm\n", arguments[0]);
    return 2;
  }
  const char *folder = arguments[1];

  /* Ten lines: a face, a text, a frame. */
  KernoFace *face;
  KernoText *score;
  KernoDrawing *drawing;
  EXPECT(kerno_face_open(in(folder, "fonts/Lato-Medium.ttf"), &face));
  KernoStyle style = kerno_style(face, 24);
  style.outline_width = 2;
  EXPECT(kerno_text_new("Fares 980", &style, NULL, &score));
  EXPECT(kerno_drawing_new(0, &drawing));
  KernoSize narrow, wide;
  EXPECT(kerno_text_size(score, &narrow));
  EXPECT(kerno_text_set(score, "Fares 1,250"));
  EXPECT(kerno_text_size(score, &wide));

  KernoFrame frame;
  KernoPoint origin = {0, 0}, corner = {628, 12}, top_right = {1, 0};
  uint64_t revisions[8] = {0};
  size_t uploaded[2];
  for (int turn = 0; turn < 2; turn++) {
    EXPECT(kerno_drawing_begin(drawing, 1, origin));
    KernoScope faded = kerno_scope();
    faded.opacity = 0.5f;
    EXPECT(kerno_drawing_push(drawing, &faded));
    KernoRect plate = {628 - wide.width - 8, 8, wide.width + 16, wide.height + 8};
    KernoColor night = {16, 30, 44, 255};
    EXPECT(kerno_drawing_rect(drawing, plate, 6, night));
    EXPECT(kerno_drawing_pop(drawing));
    EXPECT(kerno_drawing_text(drawing, score, corner, top_right, SIZE_MAX));
    EXPECT(kerno_drawing_finish(drawing, &frame));
    uploaded[turn] = upload(drawing, KERNO_PAGE_KIND_MASK, revisions);
  }
  printf("score: %.0f wider, %zu draw call, uploaded %s, then %zu texels\n",
         wide.width > narrow.width ? 1.0 : 0.0, frame.batch_count,
         uploaded[0] > 0 ? "once" : "never", uploaded[1]);
  float right = 0;
  for (size_t at = 0; at < frame.vertex_count; at++)
    if (frame.vertices[at].position[0] > right) right = frame.vertices[at].position[0];
  printf("its plate ends at %.0f\n", right);

  /* A HUD of a file, with a scene on it. */
  KernoScreen *screen;
  KernoScene *scene;
  KernoSize room;
  EXPECT(kerno_screen_open(in(folder, "talk.toml"), drawing, &screen));
  EXPECT(kerno_screen_frame(screen, drawing, WIDTH, HEIGHT, 1, &frame));
  EXPECT(kerno_screen_dialogue_room(screen, "line", &room));
  EXPECT(kerno_scene_open(in(folder, "crossing.toml"), room, &scene));
  size_t events[KERNO_EVENT_KIND_OTHER + 1] = {0};
  for (int tick = 0; tick < 120; tick++)
    EXPECT(kerno_scene_advance(scene, 1.0 / 60, hear, events));
  EXPECT(kerno_screen_show_scene(screen, "line", scene));
  EXPECT(kerno_screen_advance(screen, 2));
  printf("scene: %zu line, %s letters, over: %d\n", events[KERNO_EVENT_KIND_LINE],
         events[KERNO_EVENT_KIND_CLUSTER] > 20 ? "many" : "few", kerno_scene_is_over(scene));
  uint8_t *pixels = calloc((size_t)WIDTH * HEIGHT, 4);
  EXPECT(kerno_drawing_paint(drawing, WIDTH, HEIGHT, pixels));
  EXPECT(kerno_screen_paint(screen, drawing, WIDTH, HEIGHT, 1, pixels));
  write_picture(arguments[3], pixels);

  /* A HUD with values of the game, and pictures that were baked ahead of time. */
  KernoScreen *hud;
  KernoPack *pack;
  KernoFace *baked;
  KernoDrawing *shipped;
  KernoRect before, after;
  EXPECT(kerno_screen_open(in(folder, "hud.toml"), drawing, &hud));
  EXPECT(kerno_screen_set_number(hud, "fares", 7));
  EXPECT(kerno_screen_advance(hud, 1));
  EXPECT(kerno_screen_frame(hud, drawing, WIDTH, HEIGHT, 1, &frame));
  EXPECT(kerno_screen_element_rect(hud, "fares-number", &before));
  EXPECT(kerno_screen_set_number(hud, "fares", 88888));
  EXPECT(kerno_screen_set_flag(hud, "foggy", false));
  EXPECT(kerno_screen_set_text(hud, "landing", "Reed Bank"));
  EXPECT(kerno_screen_set_language(hud, drawing, "de"));
  EXPECT(kerno_screen_advance(hud, 1));
  EXPECT(kerno_screen_frame(hud, drawing, WIDTH, HEIGHT, 1, &frame));
  EXPECT(kerno_screen_element_rect(hud, "fares-number", &after));
  printf("fares: %s, to the same right edge: %d\n", after.width > before.width ? "wider" : "as wide",
         (int)(after.x + after.width - before.x - before.width) == 0);
  printf("no fog: %d\n", kerno_screen_element_rect(hud, "message", &after) != KERNO_STATUS_OK);
  EXPECT(kerno_pack_open(arguments[2], &pack));
  EXPECT(kerno_pack_face(pack, "text", &baked));
  EXPECT(kerno_drawing_from_pack(pack, &shipped));
  kerno_pack_free(pack);
  KernoMetrics metrics;
  EXPECT(kerno_face_metrics(baked, 20, &metrics));
  printf("pack: %zu pages or more, letters of %s heights\n",
         kerno_drawing_page_count(shipped, KERNO_PAGE_KIND_MASK) > 0 ? (size_t)1 : (size_t)0,
         metrics.x_height > 0 && metrics.x_height < metrics.cap_height ? "two" : "odd");
  kerno_screen_free(hud);
  EXPECT(kerno_screen_open(in(folder, "hud.toml"), shipped, &hud));
  EXPECT(kerno_screen_frame(hud, shipped, WIDTH, HEIGHT, 1, &frame));
  printf("a HUD with baked sprites: %zu draw call\n", frame.batch_count);
  kerno_screen_free(hud);
  kerno_face_free(baked);
  kerno_drawing_free(shipped);

  /* Mistakes come back as codes, with a sentence. */
  KernoFace *none = NULL;
  KernoStatus status = kerno_face_open(in(folder, "passengers.txt"), &none);
  printf("%d %s: %s\n", (int)status, kerno_error_code(), none == NULL ? "no face" : "a face");
  status = kerno_text_set(NULL, "words");
  printf("%d %s: %s\n", (int)status, kerno_error_code(), kerno_error_message());
  kerno_text_free(score);
  status = kerno_text_size(score, &wide);
  printf("%d %s: %s\n", (int)status, kerno_error_code(), kerno_error_message());
  kerno_text_free(score);
  status = kerno_text_size((KernoText *)face, &wide);
  printf("%d %s\n", (int)status, kerno_error_code());
  KernoOptions options = kerno_options();
  options.wrap = 9;
  status = kerno_text_new("words", &style, &options, &score);
  printf("%d %s: %s\n", (int)status, kerno_error_code(), kerno_error_message());
  status = kerno_text_new("\xff", &style, NULL, &score);
  printf("%d %s: %s\n", (int)status, kerno_error_code(), kerno_error_message());
  status = kerno_drawing_line(drawing, origin, corner, 2, style.color);
  printf("%d %s: %s\n", (int)status, kerno_error_code(), kerno_error_message());

  free(pixels);
  kerno_scene_free(scene);
  kerno_screen_free(screen);
  kerno_drawing_free(drawing);
  kerno_face_free(face);
  kerno_face_free(NULL);
  return 0;
}
