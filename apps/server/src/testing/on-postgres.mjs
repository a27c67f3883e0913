// Every data folder of a test has a database of its own on the server that the test command has started.
process.env.FULLER_DATABASE = `${process.env.FULLER_TEST_POSTGRES}/{folder}`;
