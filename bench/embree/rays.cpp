/**
 * Casts the rays of a file with Embree, one thread, one ray at a time. Reads what bench/rays.ts has written, writes
 * hits to a second file and one JSON line to standard output: build time, bytes, nanoseconds of each chunk of rays.
 * Usage: rays FILE HITS robust|default PASSES
 */
#include <embree3/rtcore.h>
#include <atomic>
#include <chrono>
#include <cmath>
#include <cstdint>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <limits>
#include <string>
#include <vector>

static std::atomic<long long> bytesNow{0}, bytesMost{0};
static bool monitor(void*, ssize_t bytes, bool) {
  bytesNow += bytes;
  return true;
}
static double now() { return std::chrono::duration<double, std::nano>(std::chrono::steady_clock::now().time_since_epoch()).count(); }

struct Mesh { std::vector<float> positions; std::vector<uint32_t> indices; };
struct Ray { float o[3], d[3], far; };

template <class T> static void read(FILE* f, T* to, size_t n) {
  if (fread(to, sizeof(T), n, f) != n) { fprintf(stderr, "short file\n"); exit(1); }
}

int main(int argc, char** argv) {
  if (argc < 5) return 2;
  FILE* f = fopen(argv[1], "rb");
  if (!f) return 1;
  const bool robust = std::string(argv[3]) == "robust";
  const int passes = atoi(argv[4]);
  uint32_t head[3];
  read(f, head, 3);
  std::vector<Mesh> meshes(head[0]);
  for (auto& m : meshes) {
    uint32_t n[2];
    read(f, n, 2);
    m.positions.resize(n[0] * 3 + 4);
    m.indices.resize(n[1] * 3);
    read(f, m.positions.data(), n[0] * 3);
    read(f, m.indices.data(), n[1] * 3);
  }
  std::vector<uint32_t> of(head[1]);
  std::vector<float> place(head[1] * 12);
  for (uint32_t i = 0; i < head[1]; i++) {
    read(f, &of[i], 1);
    read(f, &place[i * 12], 12);
  }
  RTCDevice device = rtcNewDevice("threads=1");
  rtcSetDeviceMemoryMonitorFunction(device, monitor, nullptr);
  const RTCSceneFlags flags = robust ? RTC_SCENE_FLAG_ROBUST : RTC_SCENE_FLAG_NONE;
  const double begin = now();
  std::vector<RTCScene> scenes;
  for (auto& m : meshes) {
    RTCScene s = rtcNewScene(device);
    rtcSetSceneFlags(s, flags);
    RTCGeometry g = rtcNewGeometry(device, RTC_GEOMETRY_TYPE_TRIANGLE);
    rtcSetSharedGeometryBuffer(g, RTC_BUFFER_TYPE_VERTEX, 0, RTC_FORMAT_FLOAT3, m.positions.data(), 0, 12, (m.positions.size() - 4) / 3);
    rtcSetSharedGeometryBuffer(g, RTC_BUFFER_TYPE_INDEX, 0, RTC_FORMAT_UINT3, m.indices.data(), 0, 12, m.indices.size() / 3);
    rtcCommitGeometry(g);
    rtcAttachGeometry(s, g);
    rtcReleaseGeometry(g);
    rtcCommitScene(s);
    scenes.push_back(s);
  }
  RTCScene top = scenes[0];
  if (head[1] > 0) {
    top = rtcNewScene(device);
    rtcSetSceneFlags(top, flags);
    for (uint32_t i = 0; i < head[1]; i++) {
      RTCGeometry g = rtcNewGeometry(device, RTC_GEOMETRY_TYPE_INSTANCE);
      rtcSetGeometryInstancedScene(g, scenes[of[i]]);
      rtcSetGeometryTransform(g, 0, RTC_FORMAT_FLOAT3X4_ROW_MAJOR, &place[i * 12]);
      rtcCommitGeometry(g);
      rtcAttachGeometryByID(top, g, i);
      rtcReleaseGeometry(g);
    }
    rtcCommitScene(top);
  }
  const double built = now() - begin;
  printf("{\"buildMs\":%.3f,\"bytes\":%lld,\"sets\":[", built / 1e6, (long long)bytesNow);
  FILE* hits = fopen(argv[2], "wb");
  for (uint32_t set = 0; set < head[2]; set++) {
    uint32_t n[2];
    read(f, n, 2);
    std::vector<Ray> rays(n[0]);
    read(f, (char*)rays.data(), sizeof(Ray) * n[0]);
    const bool any = n[1] != 0;
    std::vector<float> t(n[0]);
    std::vector<uint32_t> prim(n[0]), inst(n[0]);
    const uint32_t chunk = 8192, chunks = (n[0] + chunk - 1) / chunk;
    std::vector<double> least(chunks, 1e30);
    RTCIntersectContext context;
    rtcInitIntersectContext(&context);
    for (int pass = 0; pass < passes; pass++)
      for (uint32_t c = 0; c < chunks; c++) {
        const uint32_t end = std::min(n[0], (c + 1) * chunk);
        const double at = now();
        for (uint32_t i = c * chunk; i < end; i++) {
          RTCRayHit r;
          const Ray& q = rays[i];
          r.ray.org_x = q.o[0]; r.ray.org_y = q.o[1]; r.ray.org_z = q.o[2];
          r.ray.dir_x = q.d[0]; r.ray.dir_y = q.d[1]; r.ray.dir_z = q.d[2];
          r.ray.tnear = 0; r.ray.tfar = q.far; r.ray.time = 0; r.ray.mask = -1; r.ray.flags = 0; r.ray.id = 0;
          if (any) {
            rtcOccluded1(top, &context, &r.ray);
            t[i] = r.ray.tfar < 0 ? 0 : std::numeric_limits<float>::infinity();
          } else {
            r.hit.geomID = RTC_INVALID_GEOMETRY_ID;
            r.hit.instID[0] = RTC_INVALID_GEOMETRY_ID;
            rtcIntersect1(top, &context, &r);
            const bool hit = r.hit.geomID != RTC_INVALID_GEOMETRY_ID;
            t[i] = hit ? r.ray.tfar : std::numeric_limits<float>::infinity();
            prim[i] = hit ? r.hit.primID : 0;
            inst[i] = hit ? r.hit.instID[0] : 0;
          }
        }
        least[c] = std::min(least[c], now() - at);
      }
    printf("%s[", set ? "," : "");
    for (uint32_t c = 0; c < chunks; c++) printf("%s%.0f", c ? "," : "", least[c]);
    printf("]");
    fwrite(t.data(), 4, n[0], hits);
    fwrite(prim.data(), 4, n[0], hits);
    fwrite(inst.data(), 4, n[0], hits);
  }
  printf("]}\n");
  fclose(hits);
  return 0;
}
