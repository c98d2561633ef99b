const config = { singleQuote: true, printWidth: 140 };

export default config;
