#include "support/run.hpp"

int main(int argc, char** argv) { return run_tests(argc, argv); }
