// What R cannot say of files: their kind, which file a name leads to, whether what was printed
// arrived, and which number other programs read from a text.
#include <sys/stat.h>
#include <sys/types.h>

#include <Rcpp/Lightest>
#include <cerrno>
#include <csignal>
#include <cstdlib>
#include <cstring>
#include <string>

#ifdef _WIN32
#include <io.h>
#else
#include <unistd.h>
#endif

namespace {

long put_some(const unsigned char* bytes, std::size_t count) {
#ifdef _WIN32
  return _write(1, bytes, static_cast<unsigned>(count));
#else
  return ::write(1, bytes, count);
#endif
}

}  // namespace

// "file", "folder", "other" (a device or a pipe) or "" where there is nothing; links are followed.
// [[Rcpp::export]]
std::string native_file_kind(const std::string& path) {
  struct stat found;
  if (::stat(path.c_str(), &found) != 0) return "";
  const auto kind = found.st_mode & S_IFMT;
  return kind == S_IFREG ? "file" : kind == S_IFDIR ? "folder" : "other";
}

// The same text for all names of one file; "" where the system has none.
// [[Rcpp::export]]
std::string native_file_key(const std::string& path) {
  struct stat found;
  if (::stat(path.c_str(), &found) != 0 || found.st_ino == 0) return "";
  return std::to_string(found.st_dev) + ":" + std::to_string(found.st_ino);
}

// Numbers as the C library reads them, which rounds correctly; R itself may miss the last bit of a
// text that lies halfway between two numbers.
// [[Rcpp::export]]
Rcpp::NumericVector native_numbers_read(const Rcpp::CharacterVector& texts) {
  Rcpp::NumericVector out(texts.size());
  for (R_xlen_t i = 0; i < texts.size(); ++i)
    out[i] = std::strtod(CHAR(STRING_ELT(texts, i)), nullptr);
  return out;
}

// Writes bytes to standard output. "" when all of them arrived, else why not; "pipe" when the
// reader has gone.
// [[Rcpp::export]]
std::string native_put_out(const Rcpp::RawVector& bytes) {
#ifndef _WIN32
  // A reader that has seen enough is told by the result, not by a signal.
  void (*before)(int) = std::signal(SIGPIPE, SIG_IGN);
#endif
  std::string why;
  R_xlen_t done = 0;
  // A write of nothing shows that the output is closed.
  do {
    const long put = put_some(bytes.begin() + done, static_cast<std::size_t>(bytes.size() - done));
    if (put >= 0) {
      done += put;
    } else if (errno != EINTR && errno != EAGAIN) {
#ifdef EPIPE
      why = errno == EPIPE ? "pipe" : std::strerror(errno);
#else
      why = std::strerror(errno);
#endif
    }
  } while (why.empty() && done < bytes.size());
#ifndef _WIN32
  std::signal(SIGPIPE, before);
#endif
  return why;
}
