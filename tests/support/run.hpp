// Runs the tests that a program is linked with, as its arguments say. Returns what main() should.
#pragma once

int run_tests(int argc, char** argv);
