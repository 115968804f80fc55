// All of Catch2 that is not in every test: compiled once for all test programs, and without sanitizers.
#define CATCH_CONFIG_RUNNER
#include <catch2/catch.hpp>

#include "support/run.hpp"

int run_tests(int argc, char** argv) { return Catch::Session().run(argc, argv); }
